import { equilibriumMoistureContentPct, movementMm } from '@ample-crane/core';
import { MenuItem, TextField } from '@mui/material';
import { useState } from 'react';
import { useSetup, type Setup } from '../api/queries.ts';
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
    <section className="panel" aria-label="Movement">
      <h2>Movement</h2>
      {dimensions.length === 0 && (
        <p className="quiet">No model made of {species} names a dimension to watch.</p>
      )}
      {dimensions.length > 0 && (
        <table>
          <thead>
            <tr>
              <th scope="col">{species}, across the grain</th>
              <th scope="col" className="number">
                {pct(nowPct)} → {pct(gatePct)} %
              </th>
              <th scope="col" className="number">
                then → {pct(homePct)} %
              </th>
            </tr>
          </thead>
          <tbody>
            {dimensions.map((dimension) => (
              <tr key={`${dimension.model}${dimension.name}`}>
                <td>
                  {dimension.model} {dimension.name}, {dimension.widthMm} mm
                </td>
                <td className="number">{moves(dimension, nowPct, gatePct)}</td>
                <td className="number">{moves(dimension, gatePct, homePct)}</td>
              </tr>
            ))}
          </tbody>
        </table>
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
    </section>
  );
}
