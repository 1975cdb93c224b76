import { Box, ToggleButton } from '@mui/material';

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
    <Box role="group" aria-label={label} sx={{ display: 'flex', flexWrap: 'wrap', gap: '4px' }}>
      {places.map((place) => (
        <ToggleButton
          key={place}
          value={place}
          size="small"
          selected={chosen.includes(place)}
          onChange={() => turn(place)}
        >
          {String(place).padStart(2, '0')}
        </ToggleButton>
      ))}
    </Box>
  );
}
