/** One instrument that left. */
export interface LedgerLine {
  atMs: number;
  piece: string;
  batch: string;
  position: number;
  serial: string | null;
  model: string;
  to: string | null;
  order: string | null;
  carrier: string | null;
  contents: string | null;
  /** Papers of its protected wood, with the species; null: none are noted. */
  papers: string | null;
  by: string;
  /** Reason it left against a rule; null: no rule spoke against it. */
  because: string | null;
  /** Key of the filing it left with: one packing list. */
  filing: string;
}
