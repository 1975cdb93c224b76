/** The colours of the house; what each is for stands in docs/design.md. Contrast of text on paper is 4.5:1 or more. */
export const DAY = {
  ebony: '#221D19',
  bone: '#F4EFE4',
  paper: '#FFFDF8',
  fibre: '#D9CFBD',
  umber: '#6D6256',
  maple: '#E6D3AD',
  shellac: '#B5661A',
  shellacText: '#94500F',
  oxblood: '#8F2D26',
  slate: '#3D5A73',
  verdigris: '#2C6E60',
  onDark: '#FFFDF8',
  dark: '#221D19',
  hatch: '#A3B5C4',
  stripe: '#FAF6EC',
};

/** The night shift: the same devices on dark ground. */
export const NIGHT: typeof DAY = {
  ebony: '#F0E8DA',
  bone: '#171412',
  paper: '#211D1A',
  fibre: '#453C33',
  umber: '#B5A796',
  maple: '#7A6744',
  shellac: '#E0934A',
  shellacText: '#E9A564',
  oxblood: '#EE8B80',
  slate: '#9DBAD3',
  verdigris: '#7CC7B6',
  onDark: '#171412',
  dark: '#0E0C0B',
  hatch: '#4A6072',
  stripe: '#1C1815',
};

export type ThemeName = 'day' | 'night';
export const TOKENS: Record<ThemeName, typeof DAY> = { day: DAY, night: NIGHT };
