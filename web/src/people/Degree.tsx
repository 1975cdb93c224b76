import { Box, TextField } from '@mui/material';
import { SKILL_DEGREES, type SkillDegree } from '@ample-crane/core';

export const DEGREE_WORDS: Record<SkillDegree, string> = {
  none: 'cannot',
  learning: 'is learning',
  can: 'can',
  teaches: 'can teach',
};

const SIDE = 14;

/** How well somebody can do something: hollow while they learn, full when they can, in a frame when they teach it. */
export function Degree({
  degree,
  isOnlyOne = false,
  isFaint = false,
}: {
  degree: Exclude<SkillDegree, 'none'>;
  /** Nobody else can. */
  isOnlyOne?: boolean;
  /** Away today. */
  isFaint?: boolean;
}) {
  const colour = isOnlyOne ? 'var(--oxblood)' : 'var(--ebony)';
  const words = degree !== 'learning' && isOnlyOne ? 'the only one who can' : DEGREE_WORDS[degree];
  return (
    <Box
      component="span"
      role="img"
      aria-label={degree === 'teaches' && isOnlyOne ? `${words}, and can teach` : words}
      sx={{
        ...{ display: 'inline-block', width: SIDE, height: SIDE, verticalAlign: 'middle' },
        background: degree === 'learning' ? 'transparent' : colour,
        border: degree === 'learning' ? '2px solid var(--umber)' : undefined,
        boxShadow: degree === 'teaches' ? `0 0 0 2px var(--paper), 0 0 0 4px ${colour}` : undefined,
        opacity: isFaint ? 0.35 : 1,
      }}
    />
  );
}

/** The degree, to be changed. */
export function DegreeChoice(props: {
  label: string;
  degree: SkillDegree;
  disabled: boolean;
  onChange: (degree: SkillDegree) => void;
}) {
  const { label, degree, disabled, onChange } = props;
  return (
    <TextField
      select
      size="small"
      value={degree}
      disabled={disabled}
      onChange={({ target }) => onChange(SKILL_DEGREES.find((one) => one === target.value) ?? degree)}
      sx={{ width: 116 }}
      // Hundreds of them stand in one grid: the browser's own list is light, and knows its keys.
      slotProps={{ select: { native: true }, htmlInput: { 'aria-label': label } }}
    >
      {SKILL_DEGREES.map((one) => (
        <option key={one} value={one}>
          {one === 'none' ? '–' : DEGREE_WORDS[one]}
        </option>
      ))}
    </TextField>
  );
}
