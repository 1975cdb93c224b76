import { Box } from '@mui/material';
/** Which pieces it is about: the places of a rack to press, all of them at first. */
export function PieceChoice({
  places,
  chosen,
  onChoose,
  label,
}: {
  places: readonly number[];
  chosen: readonly number[];
  onChoose: (places: number[]) => void;
  label: string;
}) {
  const turn = (place: number): void =>
    onChoose(
      chosen.includes(place)
        ? chosen.filter((one) => one !== place)
        : [...chosen, place].sort((a, b) => a - b),
    );
  return (
    <Box className="choices" role="group" aria-label={label}>
      {places.map((place) => (
        <button key={place} type="button" aria-pressed={chosen.includes(place)} onClick={() => turn(place)}>
          {String(place).padStart(2, '0')}
        </button>
      ))}
    </Box>
  );
}
