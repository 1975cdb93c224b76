/** How well somebody can do something: not at all, not alone yet, alone, and so that others learn it from them. */
export const SKILL_DEGREES = ['none', 'learning', 'can', 'teaches'] as const;
export type SkillDegree = (typeof SKILL_DEGREES)[number];

/** What somebody can do. */
export interface Skilled {
  /** What they can do, alone. */
  skills: string[];
  /** What they are learning: they cannot do it alone yet. */
  learning: string[];
  /** What of their skills they can teach. */
  teaches: string[];
}

/** How well somebody can do one thing. */
export function degreeOf(
  { skills, learning, teaches }: Readonly<Record<keyof Skilled, readonly string[]>>,
  skill: string,
): SkillDegree {
  if (!skills.includes(skill)) return learning.includes(skill) ? 'learning' : 'none';
  return teaches.includes(skill) ? 'teaches' : 'can';
}

/** The same somebody, who can do one thing so well; each of their lists in order of the alphabet. */
export function withDegree(person: Skilled, skill: string, degree: SkillDegree): Skilled {
  const turned = (list: readonly string[], on: boolean): string[] =>
    [...list.filter((one) => one !== skill), ...(on ? [skill] : [])].toSorted();
  return {
    skills: turned(person.skills, degree === 'can' || degree === 'teaches'),
    learning: turned(person.learning, degree === 'learning'),
    teaches: turned(person.teaches, degree === 'teaches'),
  };
}
