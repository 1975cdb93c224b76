import { useState } from 'react';

/** Pieces chosen out of those there are: all of them at first, and who is left out stays so while others come and go. */
export function useChosen(places: readonly number[]): [number[], (chosen: readonly number[]) => void] {
  const [leftOut, setLeftOut] = useState<readonly number[]>([]);
  return [
    places.filter((place) => !leftOut.includes(place)),
    (chosen) => setLeftOut(places.filter((place) => !chosen.includes(place))),
  ];
}
