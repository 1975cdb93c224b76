import { openedWork, type OpenedPart, type Route } from '@ample-crane/core';
import { Table, TableBody, TableCell, TableHead, TableRow, Typography } from '@mui/material';
import { useMemo } from 'react';
import type { Floor } from '../api/queries.ts';
import { Fold, Panel, Quiet } from '../parts/index.ts';

/** What racks that are opened do to the stations, the one that paces the works first. */
export function WhatItBrings(props: {
  floor: Floor;
  routes: readonly Route[];
  parts: readonly OpenedPart[];
}) {
  const { floor, routes, parts } = props;
  const brings = useMemo(
    () => openedWork({ parts, routes, loads: floor.stations }),
    [parts, routes, floor.stations],
  );
  const nameOf = (code: string): string => floor.stations.find((one) => one.code === code)?.name ?? code;
  return (
    <Panel label="What it brings">
      <Typography variant="h2">What it brings</Typography>
      <Typography>{pacingWords(floor, brings)}</Typography>
      {brings.length > 0 && (
        <Fold name={`Hours at ${brings.length} stations`}>
          <Table size="small" aria-label="Hours it brings to the stations">
            <TableHead>
              <TableRow>
                <TableCell scope="col">station</TableCell>
                <TableCell scope="col" align="right">
                  brings
                </TableCell>
                <TableCell scope="col" align="right">
                  days in front now
                </TableCell>
                <TableCell scope="col" align="right">
                  with it
                </TableCell>
              </TableRow>
            </TableHead>
            <TableBody>
              {brings.map(({ station, addedHours, daysNow, daysWith }) => (
                <TableRow key={station}>
                  <TableCell>
                    {station === floor.constraint?.station ? (
                      <strong>{nameOf(station)}</strong>
                    ) : (
                      nameOf(station)
                    )}
                  </TableCell>
                  <TableCell align="right">{addedHours.toFixed(1)} h</TableCell>
                  <TableCell align="right">{daysNow.toFixed(1)}</TableCell>
                  <TableCell align="right">{daysWith.toFixed(1)}</TableCell>
                </TableRow>
              ))}
            </TableBody>
          </Table>
          <Quiet>
            By the times of the routes, up to the last operation of what the parts become; as if all of it
            stood there already, which it will not: it comes when it comes.
          </Quiet>
        </Fold>
      )}
    </Panel>
  );
}

function pacingWords(floor: Floor, brings: ReturnType<typeof openedWork>): string {
  const pacing = floor.stations.find(({ code }) => code === floor.constraint?.station);
  if (!pacing) return 'No station has half a day of work in front of it: there is room for more.';
  const paces = floor.constraint?.signs ? 'paces the works' : 'may pace the works';
  const waits = `${pacing.hoursWaiting.toFixed(0)} h of work wait for its ${pacing.hoursADay.toFixed(0)} h a day`;
  const here = brings.find(({ station }) => station === pacing.code);
  return here
    ? `${pacing.name} ${paces}: ${waits}. This brings it ${here.addedHours.toFixed(1)} h more: ${here.daysWith.toFixed(1)} working days of work instead of ${here.daysNow.toFixed(1)}. What is opened now only helps when it gets there before ${pacing.name} runs out.`
    : `${pacing.name} ${paces}: ${waits}. This brings it nothing.`;
}
