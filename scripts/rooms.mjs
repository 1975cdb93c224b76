/**
 * npm run rooms: draws docs/rooms.svg from the imports. One square a part (core, server, web): rooms in the order in which they
 * know each other, a dot where the room of the row knows that of the column, larger with more imports. Where every dot lies left
 * of the diagonal there is no circle. Leaves with 1 when one does not.
 */
import { execFileSync } from 'node:child_process';
import { writeFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';

const root = fileURLToPath(new URL('..', import.meta.url));
const PARTS = ['core', 'server', 'web'];
const CELL = 22;
const NAMES = 92;
const TOP = 96;

const { modules } = JSON.parse(
  execFileSync(
    'npx',
    [
      'depcruise',
      ...PARTS.map((part) => `${part}/src`),
      ...['--config', 'dependency-cruiser.config.cjs', '--output-type', 'json'],
    ],
    { cwd: root, encoding: 'utf8', maxBuffer: 1e9 },
  ),
);

/** 'wood' of 'core/src/wood/gate.ts'; undefined: not in a room, or a test. */
const roomOf = (file, part) =>
  /\.test\.tsx?$/.test(file) ? undefined : new RegExp(`^${part}/src/([^/]+)/`).exec(file)?.[1];

/** Imports between rooms: 'from to' → how many. */
function importsOf(part) {
  const counts = new Map();
  const rooms = new Set();
  for (const { source, dependencies } of modules) {
    const from = roomOf(source, part);
    if (!from || from === 'testing') continue;
    rooms.add(from);
    for (const { resolved } of dependencies) {
      const to = roomOf(resolved, part);
      if (!to || to === from || to === 'testing') continue;
      counts.set(`${from} ${to}`, (counts.get(`${from} ${to}`) ?? 0) + 1);
    }
  }
  return { rooms: [...rooms].toSorted(), counts };
}

/** Each room behind those it knows; of a circle, the one that knows fewest comes first. */
function inOrder(rooms, counts) {
  const left = new Set(rooms);
  const order = [];
  while (left.size > 0) {
    const unknown = (room) => [...left].filter((other) => counts.has(`${room} ${other}`)).length;
    const next = [...left].toSorted((a, b) => unknown(a) - unknown(b))[0];
    order.push(next);
    left.delete(next);
  }
  return order;
}

let circles = 0;
function draw(part, left) {
  const { rooms, counts } = importsOf(part);
  const order = inOrder(rooms, counts);
  const at = (i) => i * CELL + CELL / 2;
  const marks = order.flatMap((from, row) =>
    order.flatMap((to, column) => {
      const count = counts.get(`${from} ${to}`);
      if (!count) return [];
      if (column > row) circles += 1;
      const r = Math.min(CELL / 2 - 2, 2 + Math.sqrt(count));
      const words = `${from} knows ${to}: ${count} import${count === 1 ? '' : 's'}`;
      return `<circle cx="${at(column)}" cy="${at(row)}" r="${r.toFixed(1)}" fill="${column > row ? '#9b2226' : '#2b2521'}"><title>${words}</title></circle>`;
    }),
  );
  const side = order.length * CELL;
  return {
    width: NAMES + side,
    height: TOP + side,
    svg: `<g transform="translate(${left + NAMES} ${TOP})">
<text x="${-NAMES}" y="${16 - TOP}" font-size="17" font-weight="700">${part}</text>
${order.map((room, i) => `<rect x="${i * CELL}" y="${i * CELL}" width="${CELL}" height="${CELL}" fill="#e5d0a8"/><text x="-6" y="${at(i) + 4}" text-anchor="end">${room}</text><text transform="translate(${at(i) + 4} -6) rotate(-60)">${room}</text><path d="M0 ${i * CELL}H${side}M${i * CELL} 0V${side}" stroke="#d9cfbd" fill="none"/>`).join('\n')}
<rect width="${side}" height="${side}" fill="none" stroke="#2b2521"/>
${marks.join('\n')}
</g>`,
  };
}

let left = 10;
const drawn = PARTS.map((part) => {
  const one = draw(part, left);
  left += one.width + 40;
  return one;
});
const height = Math.max(...drawn.map((one) => one.height)) + 16;
writeFileSync(
  `${root}docs/rooms.svg`,
  `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${left} ${height}" font-family="sans-serif" font-size="12">
<rect width="100%" height="100%" fill="#fbf6ea"/>
${drawn.map(({ svg }) => svg).join('\n')}
</svg>
`,
);
console.log(`docs/rooms.svg: ${circles === 0 ? 'no circles' : `${circles} imports against the order`}`);
process.exitCode = circles === 0 ? 0 : 1;
