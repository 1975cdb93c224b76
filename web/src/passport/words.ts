import type { Schemas } from '../api/client.ts';

type Part = Pick<Schemas['PassportPartDto'], 'piece' | 'standing'> & {
  lines: Pick<Schemas['PassportLineDto'], 'kind'>[];
};

const times = (count: number): string => (count === 1 ? 'once' : count === 2 ? 'twice' : `${count} times`);

/** 'I-190/03, on hold at Cure, made of B-190/03 and N-114/03. The rule was passed by twice; it went back once.' */
export function passportSentence(parts: readonly Part[]): string {
  const [whole, ...rest] = parts;
  if (!whole) return 'Nothing is kept of it.';
  const count = (kind: string): number =>
    parts.flatMap(({ lines }) => lines).filter((line) => line.kind === kind).length;
  const [overrides, slips] = [count('override'), count('slip')];
  const made = rest.length > 0 ? `, made of ${rest.map(({ piece }) => piece).join(' and ')}` : '';
  const rule = overrides > 0 ? `A rule was passed by ${times(overrides)}` : 'No rule was passed by';
  const back = slips > 0 ? `; it went back ${times(slips)}` : '';
  return `${whole.piece}, ${whole.standing}${made}. ${rule}${back}.`;
}
