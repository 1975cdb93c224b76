/** Stands with every caution. */
export const REMINDER =
  'Follow your local codes, the data sheet and your safety officer; this is a reminder, not training.';

/** The usual cautions by what is done, short; an operation carries the ones that belong to it, in the factory's own words. */
export const CAUTIONS: Readonly<Record<string, string>> = {
  'wood dust':
    'Wood dust: extraction and a fitted respirator; some species sensitise, hardwood dust is a carcinogen.',
  'copy-router':
    'Copy-router: guards on, authorised people only, no gloves near the cutter, hands outside the marked zone.',
  CNC: 'CNC: doors closed, vacuum proved before the spindle starts, extraction on.',
  'gang saw': 'Gang saw: guards and riving in place, dust drawn off, push block, no gloves near the blades.',
  'hot press': 'Hot bender or press, about 160 °C: burns and pinch points.',
  clamps: 'Clamps and presses: pinch points; lift stacked racks with two.',
  'white glue': 'Glue: wipe skin and floor; keep clamps clear of fingers.',
  cyanoacrylate:
    'Cyanoacrylate bonds skin in seconds: eye protection, no rags or wool that may heat, air the bench.',
  epoxy:
    'Epoxy: no skin contact with resin or hardener, nitrile gloves away from cutters, mind the pot’s heat.',
  'solvent cement': 'Solvent cement: highly flammable, no ignition sources, draw the fumes off.',
  resin:
    'Laminating resin: skin and breath protection, mind the heat of the cure, sand wet or with extraction.',
  spraying:
    'Solvents and lacquer: highly flammable, booth extraction interlocked, no ignition sources, bonded containers, a fitted respirator.',
  isocyanates: 'Catalysed finishes hold isocyanates: supplied air, covered skin, health surveillance.',
  'oily rags': 'Oily rags heat by themselves: metal lidded bin, emptied every day.',
  buffing: 'Buffing throws work: hold below centre, hair and cuffs tied, eyes covered.',
  freezer: 'Freezer ageing: cold burns, chips that fly on warming; cover hands and eyes.',
  lifting: 'Stacked racks are heavy: two people or the lift.',
};

/** What is dangerous in a kind of work, with the reminder that local rules and training come first. */
export const cautionWords = (name: keyof typeof CAUTIONS): string => `${CAUTIONS[name] ?? ''} ${REMINDER}`;
