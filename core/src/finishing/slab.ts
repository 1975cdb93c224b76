/**
 * How long a solvent film takes: all its coats are one slab that solvent leaves through its top only (DOMAIN §5). Time is in
 * reference hours throughout, since climate only stretches it.
 */

/** Of the solvent of a film laid at once, this share is left after its hours to buff. Default, DOMAIN §5. */
export const LEFT_WHEN_THROUGH = 0.02;
/**
 * The first mode of a film laid at once holds 8/π² of its solvent and decays alone long before buffing; it is down to
 * LEFT_WHEN_THROUGH after so many of its time constants.
 */
export const TIME_CONSTANTS_TO_BUFF = Math.log(8 / (LEFT_WHEN_THROUGH * Math.PI ** 2));
/**
 * Modes carried along. Against finite volumes on a fine grid the hours to sand and buff differ by less than 0.2 %, for films of
 * one to twelve coats laid an hour to a week apart (slab.test.ts).
 */
const MODES = 32;
/** Two modes of neighbouring slabs nearer than this, relatively, are one. */
const SAME_MODE = 1e-7;
const HALVINGS = 32;
/** exp(−40) of a solvent is none. */
const GONE = 40;

/** What the hours of a material were found for: one film laid at once. */
export interface SlabKinetics {
  /** Dry film, µm. */
  referenceUm: number;
  /** Reference hours after which such a film may be sanded and buffed. */
  hours: { sand: number; buff: number };
}

export interface SlabCoat {
  /** Reference hours on any axis, not falling from coat to coat. */
  atHours: number;
  /** Dry film, µm, above 0. */
  filmUm: number;
  /** The film under it had been freed for buffing: it is ground, which takes solvent up and gives it back. */
  onFreed: boolean;
}

/** A slab: solvent per µm is Σ aₙ cos(λₙ x), x from the bottom up, λₙ = (n + ½) π / height. */
interface Slab {
  heightUm: number;
  amplitudes: Float64Array;
}

const wave = (n: number, heightUm: number): number => ((n + 0.5) * Math.PI) / heightUm;
const sign = (n: number): number => (n % 2 === 0 ? 1 : -1);
const at = (list: Float64Array, i: number): number => list[i] ?? 0;

/** Diffusivity, µm² per reference hour: D = 4 L² ln(8 / (0.02 π²)) / (π² R_buff), by the first mode (Crank, ch. 4). */
const diffusivity = ({ referenceUm, hours }: SlabKinetics): number =>
  (4 * referenceUm ** 2 * TIME_CONSTANTS_TO_BUFF) / (Math.PI ** 2 * hours.buff);

/**
 * Reference hours after its last coat at which a film may be sanded and buffed: when the solvent of all coats laid since it was
 * last freed is down to the share that a film of the reference thickness, laid at once, keeps after its own hours; never sooner
 * than the last coat alone could be. One film of the reference thickness needs the hours themselves, half of it a quarter of
 * them; four coats of 23 µm a day apart, of a material that takes 336 h at 92 µm, 185 h.
 */
export function slabHours(
  coats: readonly SlabCoat[],
  kinetics: SlabKinetics,
): { sand: number; buff: number } {
  const last = coats.at(-1);
  if (!last) throw new RangeError('slabHours: there is no coat');
  const factor = (last.filmUm / kinetics.referenceUm) ** 2;
  const alone = { sand: kinetics.hours.sand * factor, buff: kinetics.hours.buff * factor };
  if (coats.length === 1) return alone;
  const speed = diffusivity(kinetics);
  const { slab, laidUm } = laidUp(coats, speed);
  const reference = laidUp([{ atHours: 0, filmUm: kinetics.referenceUm, onFreed: false }], speed).slab;
  const shareAt = (hours: number): number => solvent(reference, speed, hours) / kinetics.referenceUm;
  const reach = (hours: number): number => whenDownTo(slab, speed, shareAt(hours) * laidUm, hours);
  return {
    sand: Math.max(alone.sand, reach(kinetics.hours.sand)),
    buff: Math.max(alone.buff, reach(kinetics.hours.buff)),
  };
}

function laidUp(coats: readonly SlabCoat[], speed: number): { slab: Slab; laidUm: number } {
  let slab: Slab = { heightUm: 0, amplitudes: new Float64Array(MODES) };
  let laidUm = 0;
  coats.forEach(({ atHours, filmUm, onFreed }, i) => {
    const gap = atHours - (coats[i - 1]?.atHours ?? atHours);
    slab = withCoat(dried(slab, speed, gap), filmUm);
    laidUm = (onFreed ? 0 : laidUm) + filmUm;
  });
  return { slab, laidUm };
}

function dried({ heightUm, amplitudes }: Slab, speed: number, hours: number): Slab {
  if (heightUm === 0 || hours === 0) return { heightUm, amplitudes };
  const left = amplitudes.map((a, n) => a * Math.exp(-speed * wave(n, heightUm) ** 2 * hours));
  return { heightUm, amplitudes: left };
}

/** The slab with a wet coat on it: what it held, and 1 in the coat, told anew in the modes of the greater height. */
function withCoat({ heightUm: below, amplitudes }: Slab, filmUm: number): Slab {
  const heightUm = below + filmUm;
  const next = Float64Array.from({ length: MODES }, (_, m) => {
    const mu = wave(m, heightUm);
    const coat = (sign(m) - Math.sin(mu * below)) / mu;
    if (below === 0) return (2 / heightUm) * coat;
    const edge = Math.cos(mu * below);
    let held = 0;
    for (let n = 0; n < MODES; n += 1) {
      const lambda = wave(n, below);
      const overlap =
        Math.abs(lambda - mu) < SAME_MODE * lambda
          ? below / 2
          : (sign(n) * edge * lambda) / (lambda ** 2 - mu ** 2);
      held += at(amplitudes, n) * overlap;
    }
    return (2 / heightUm) * (held + coat);
  });
  return { heightUm, amplitudes: next };
}

/** Solvent left after so many hours, in µm of wet coat: ∫ c dx. */
function solvent({ heightUm, amplitudes }: Slab, speed: number, hours: number): number {
  let sum = 0;
  for (let n = 0; n < MODES; n += 1) {
    const lambda = wave(n, heightUm);
    const passed = speed * lambda ** 2 * hours;
    if (passed > GONE) break;
    sum += ((sign(n) * at(amplitudes, n)) / lambda) * Math.exp(-passed);
  }
  return sum;
}

/** Hours until no more than that is left; solvent only falls, so by halving. `guess` is where the search begins. */
function whenDownTo(slab: Slab, speed: number, target: number, guess: number): number {
  let high = guess;
  while (solvent(slab, speed, high) > target) high *= 2;
  let low = 0;
  for (let i = 0; i < HALVINGS; i += 1) {
    const middle = (low + high) / 2;
    if (solvent(slab, speed, middle) > target) low = middle;
    else high = middle;
  }
  return high;
}
