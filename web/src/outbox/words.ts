type Body = Record<string, unknown>;

const text = (value: unknown): string =>
  typeof value === 'string' || typeof value === 'number' ? String(value) : '';
const list = (value: unknown): Body[] => (Array.isArray(value) ? (value as Body[]) : []);

/** What a filing is, for the person who touched it; by where it goes. `$1` is what stands in the path there. */
const SAID: readonly [RegExp, (body: Body, named: string) => string][] = [
  [/^\/api\/log\/line$/, ({ line }) => text(line)],
  [/^\/api\/log\/take-back$/, ({ filing }) => `take back what was filed as ${text(filing).slice(0, 8)}`],
  [/^\/api\/log\/given-up$/, ({ words }) => `given up: ${text(words)}`],
  [/^\/api\/log$/, ({ batch, entries }) => `${text(batch)}: ${list(entries).map(entryWords).join(', ')}`],
  [/^\/api\/batches$/, ({ model, kind, quantity }) => `open ${text(quantity)} ${text(model)} ${text(kind)}`],
  [/^\/api\/batches\/([^/]+)\/readings$/, (_body, code) => `${code}: a sheet of readings`],
  [/^\/api\/batches\/([^/]+)\/route$/, (_body, code) => `${code}: to another revision of its route`],
  [
    /^\/api\/loads$/,
    ({ table, parts }) =>
      `load on ${text(table)}: ${list(parts)
        .map((part) => text(part.batch))
        .join(', ')}`,
  ],
  [/^\/api\/loads\/([^/]+)\/end$/, (_body, code) => `end ${code}`],
  [/^\/api\/mill\/([^/]+)\/cutter-changes$/, ({ tool }, station) => `${station}: another ${text(tool)}`],
  [/^\/api\/machines\/cycles\/[^/]+\/settle$/, ({ as }) => `a cycle of a machine: ${text(as)}`],
  [/^\/api\/programs$/, ({ name }) => `a revision of program ${text(name)}`],
  [/^\/api\/lots$/, ({ species, boards }) => `receive ${list(boards).length} boards of ${text(species)}`],
  [
    /^\/api\/lots\/([^/]+)\/entries$/,
    ({ entry }, code) => `${code}: ${text((entry as Body | undefined)?.type)}`,
  ],
  [/^\/api\/lots\/([^/]+)\/cut-list$/, ({ cuts }, code) => `${code}: cuts of ${list(cuts).length} boards`],
  [/^\/api\/lots\/([^/]+)\/sheet$/, (_body, code) => `${code}: a sheet of readings`],
  [/^\/api\/stock\/take$/, ({ batch, blanks }) => `take ${list(blanks).length} blanks for ${text(batch)}`],
  [/^\/api\/stock\/weigh-backs$/, ({ piece }) => `${text(piece)} weighed back`],
  [
    /^\/api\/orders$/,
    ({ customer, lines }) => `an order of ${list(lines).length} lines for ${text(customer) || 'stock'}`,
  ],
  [/^\/api\/orders\/racks$/, ({ racks }) => `open ${list(racks).length} racks of orders`],
  [
    /^\/api\/orders\/([^/]+)\/entries$/,
    ({ entry }, code) => `${code}: ${text((entry as Body | undefined)?.type)}`,
  ],
  [/^\/api\/parts$/, ({ part }) => `keep ${text((part as Body | undefined)?.name)} as a part`],
  [/^\/api\/parts\/sheet$/, () => 'a sheet of the store'],
  [
    /^\/api\/parts\/([^/]+)\/entries$/,
    ({ entry }, code) => `${code}: ${text((entry as Body | undefined)?.type)}`,
  ],
  [/^\/api\/meters\/([^/]+)\/samples$/, (_body, code) => `an oven-dry sample of ${code}`],
  [/^\/api\/meters\/([^/]+)\/line$/, ({ species }, code) => `the new line of ${code} for ${text(species)}`],
  [/^\/api\/meetings$/, () => 'who meets whom'],
  [/^\/api\/pairings\/([^/]+)\/[^/]+$/, (_body, code) => `the pairs of ${code}`],
  [/^\/api\/routes$/, ({ model, kind }) => `a revision of the route of ${text(model)} ${text(kind)}`],
  [
    /^\/api\/shipments$/,
    ({ pieces, to }) => `ship ${Array.isArray(pieces) ? pieces.length : 0} to ${text(to)}`,
  ],
  [/^\/api\/passports\/([^/]+)\/[^/]+\/owner$/, (_body, code) => `a page for the owner of one of ${code}`],
  [/^\/api\/finish\/racks\/([^/]+)\/recipe$/, (_body, code) => `${code}: another recipe`],
  [/^\/api\/finish\/recipes$/, () => 'a revision of a recipe'],
  [/^\/api\/finish\/panels$/, ({ batch }) => `a test panel with ${text(batch)}`],
  [/^\/api\/finish\/panels\/([^/]+)\/weighings$/, ({ grams }, code) => `${code} weighs ${text(grams)} g`],
  [/^\/api\/finish\/booths\/([^/]+)\/filters$/, (_body, code) => `new filters in ${code}`],
  [/^\/api\/finish\/materials\/lots$/, ({ code, material }) => `receive ${text(code)} of ${text(material)}`],
  [/^\/api\/finish\/materials\/lots\/([^/]+)$/, ({ to }, code) => `${code} ${text(to)}`],
  [
    /^\/api\/finish\/materials\/mixes$/,
    ({ litres, material }) => `mix ${text(litres)} l of ${text(material)}`,
  ],
  [/^\/api\/finish\/materials\/mixes\/([^/]+)\/end$/, (_body, code) => `end mix ${code}`],
];

function entryWords({ type, count, pieces, operation }: Body): string {
  const which = Array.isArray(pieces) ? `/${pieces.join(',')}` : text(count);
  return [which, text(type), text(operation)].filter(Boolean).join(' ');
}

/** A filing in a few words. */
export function wordsOf(path: string, body: Body): string {
  for (const [where, say] of SAID) {
    const match = where.exec(path);
    if (match) return say(body, decodeURIComponent(match[1] ?? ''));
  }
  return path.replace('/api/', '');
}
