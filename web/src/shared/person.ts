import { createContext, useContext } from 'react';

const PLACE = 'ample-crane.person';
const THEME_PLACE = 'ample-crane.theme';

/** Who is at this screen. Nobody is asked for a password yet: entries carry the name that was chosen here. */
export const PersonContext = createContext<{ by: string; choose: (code: string) => void }>({
  by: 'ostrander',
  choose: () => undefined,
});

export const usePerson = () => useContext(PersonContext);

export const keptPerson = (): string => localStorage.getItem(PLACE) ?? 'ostrander';
export const keepPerson = (code: string): void => localStorage.setItem(PLACE, code);
export const keptTheme = (): 'day' | 'night' =>
  localStorage.getItem(THEME_PLACE) === 'night' ? 'night' : 'day';
export const keepTheme = (name: 'day' | 'night'): void => localStorage.setItem(THEME_PLACE, name);
