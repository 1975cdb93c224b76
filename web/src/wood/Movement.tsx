import { equilibriumMoistureContentPct, movementMm } from '@ample-crane/core';
import {
  MenuItem,
  Table,
  TableBody,
  TableCell,
  TableHead,
  TableRow,
  TextField,
  Typography,
} from '@mui/material';
import { useState } from 'react';
import { useSetup, type Setup } from '../api/queries.ts';
import { Panel } from '../parts/index.ts';
import { pct } from './words.ts';

interface Dimension {
  name: string;
  widthMm: number;
  grain: 'radial' | 'tangential';
}
interface ModelWoodView {
  parts: Record<string, { species: string; dimensions: Dimension[] }>;
}

/** Where the instrument may live. Usual rooms, not a promise: people change them. */
const CLIMATES = [
  { name: 'a home in winter, 21 °C and 30 % RH', temperatureC: 21, relativeHumidityPct: 30 },
  { name: 'a home in summer, 25 °C and 60 % RH', temperatureC: 25, relativeHumidityPct: 60 },
  { name: 'a damp coast, 24 °C and 75 % RH', temperatureC: 24, relativeHumidityPct: 75 },
  { name: 'a desert, 24 °C and 20 % RH', temperatureC: 24, relativeHumidityPct: 20 },
];

/** Dimensions across the grain that matter, of the models made from this wood. */
function dimensionsOf(
  setup: Setup,
  species: string,
  models: readonly string[] | null,
): (Dimension & { model: string })[] {
  return setup.models
    .filter(({ model }) => models === null || models.includes(model))
    .flatMap(({ model, wood }) => {
      const parts = (wood as ModelWoodView | null)?.parts ?? {};
      return Object.values(parts)
        .filter((part) => part.species === species)
        .flatMap((part) => part.dimensions.map((dimension) => ({ ...dimension, model })));
    });
}

/** What the wood will do between now and the gate, and where the instrument will live, in mm. */
export function Movement(props: { species: string; nowPct: number; gatePct: number; model?: string }) {
  const { species, nowPct, gatePct, model } = props;
  const { data: setup } = useSetup();
  const [climate, setClimate] = useState(0);
  const wood = setup?.species.find(({ name }) => name === species);
  const home = CLIMATES[climate] ?? CLIMATES[0];
  if (!setup || !wood || !home) return null;
  const homePct = equilibriumMoistureContentPct(home);
  const dimensions = dimensionsOf(setup, species, model === undefined ? null : [model]);
  const moves = (dimension: Dimension, fromPct: number, toPct: number): string => {
    const shrinkagePct = dimension.grain === 'radial' ? wood.radialShrinkagePct : wood.tangentialShrinkagePct;
    const mm = movementMm({ widthMm: dimension.widthMm, shrinkagePct, fromPct, toPct });
    return `${mm < 0 ? '−' : '+'}${Math.abs(mm).toFixed(2)} mm`;
  };
  return (
    <Panel label="Movement">
      <Typography variant="h2">Movement</Typography>
      {dimensions.length === 0 && (
        <Typography color="textSecondary">No model made of {species} names a dimension to watch.</Typography>
      )}
      {dimensions.length > 0 && (
        <Table>
          <TableHead>
            <TableRow>
              <TableCell scope="col">{species}, across the grain</TableCell>
              <TableCell scope="col" align="right">
                {pct(nowPct)} → {pct(gatePct)} %
              </TableCell>
              <TableCell scope="col" align="right">
                then → {pct(homePct)} %
              </TableCell>
            </TableRow>
          </TableHead>
          <TableBody>
            {dimensions.map((dimension) => (
              <TableRow key={`${dimension.model}${dimension.name}`}>
                <TableCell>
                  {dimension.model} {dimension.name}, {dimension.widthMm} mm
                </TableCell>
                <TableCell align="right">{moves(dimension, nowPct, gatePct)}</TableCell>
                <TableCell align="right">{moves(dimension, gatePct, homePct)}</TableCell>
              </TableRow>
            ))}
          </TableBody>
        </Table>
      )}
      <TextField
        select
        label="Where the instrument will live"
        value={climate}
        onChange={(event) => setClimate(Number(event.target.value))}
        fullWidth
        sx={{ mt: 1.5 }}
      >
        {CLIMATES.map(({ name }, i) => (
          <MenuItem key={name} value={i}>
            {name}
          </MenuItem>
        ))}
      </TextField>
    </Panel>
  );
}
