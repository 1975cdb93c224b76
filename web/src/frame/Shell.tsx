import Contrast from '@mui/icons-material/Contrast';
import Straighten from '@mui/icons-material/Straighten';
import { Box, Button, IconButton, MenuItem, Select } from '@mui/material';
import { constraintWords, METRIC, type ChosenUnits, type Stage } from '@ample-crane/core';
import { lazy, Suspense, useCallback, useEffect, useMemo, useState } from 'react';
import { Link, NavLink, Outlet, useLocation } from 'react-router';
import { useLiveNews } from '../api/live.ts';
import { useFloor, useSetup, type Floor } from '../api/queries.ts';
import { Rope, type RopeSection } from '../devices/Rope.tsx';
import { Opening } from '../parts/index.ts';
import { Find } from './Find.tsx';
import { useHouseKeys } from './keys.ts';
import { LogBar } from './LogBar.tsx';
import { turnPage } from './page-units.ts';
import { usePerson } from '../shared/person.ts';
import { UnitsContext } from '../shared/units.ts';
import { STAGE_NAMES, stageOf } from '../shared/stages.ts';
import { sayClock, sayHour, sayTime, useFactoryNow } from '../shared/time.ts';
import { FilingContext, useFilingState } from '../shared/useFiling.ts';
import './Shell.css';

const KeyHelp = lazy(() => import('./KeyHelp.tsx'));
const UnitsChoice = lazy(() => import('./UnitsChoice.tsx'));

/** Header, rope, page, log bar: what stands around every page. */
export function Shell({ onTheme }: { onTheme: () => void }) {
  const { data: floor, error, dataUpdatedAt } = useFloor();
  const live = useLiveNews();
  const nowMs = useFactoryNow(floor, dataUpdatedAt);
  const filing = useFilingState();
  const [help, setHelp] = useState(false);
  const openHelp = useCallback(() => setHelp(true), []);
  const [finding, setFinding] = useState(false);
  const openFind = useCallback(() => setFinding(true), []);
  useHouseKeys({ help: openHelp, theme: onTheme, find: openFind });
  const { pathname } = useLocation();
  const slim = pathname !== '/';
  return (
    <UnitsContext value={usePageUnits()}>
      <FilingContext.Provider value={filing}>
        <Box className="frame">
          <Header {...{ floor, nowMs, onTheme }} onHelp={openHelp} onFind={openFind} />
          <Box>
            {(error || !live) && (
              <Box className="banner" role="alert">
                {error ? 'The server does not answer. ' : 'The live line is down. '}
                {floor
                  ? `What you see is of ${sayTime(floor.nowMs, floor.zone, nowMs)}, ${ageWords(nowMs - floor.nowMs)}; `
                  : 'Nothing of the floor was kept in this browser; '}
                what you file is kept and sent when it is back.
              </Box>
            )}
            <Rope sections={floor ? ropeSections(floor, stageOf(pathname)) : []} slim={slim} />
          </Box>
          <main className="page" tabIndex={-1}>
            <Suspense fallback={<Opening />}>
              <Outlet />
            </Suspense>
          </main>
          <LogBar floor={floor} nowMs={nowMs} />
        </Box>
        {help && (
          <Suspense>
            <KeyHelp onClose={() => setHelp(false)} />
          </Suspense>
        )}
        {finding && floor && <Find floor={floor} onClose={() => setFinding(false)} />}
      </FilingContext.Provider>
    </UnitsContext>
  );
}

/** The units of whoever is at this screen; the page as it stands is put into them. */
function usePageUnits(): ChosenUnits {
  const { by } = usePerson();
  const { data } = useSetup();
  const { length, temperature } = data?.people.find(({ code }) => code === by)?.units ?? METRIC;
  const units = useMemo(() => ({ length, temperature }), [length, temperature]);
  useEffect(() => turnPage(document.body, units), [units]);
  return units;
}

function ageWords(ms: number): string {
  const minutes = Math.round(ms / 60_000);
  if (minutes < 1) return 'just now';
  if (minutes < 120) return `${minutes} min ago`;
  return minutes < 48 * 60 ? `${Math.round(minutes / 60)} h ago` : `${Math.round(minutes / 1440)} days ago`;
}

function Header(props: {
  floor: Floor | undefined;
  nowMs: number;
  onTheme: () => void;
  onHelp: () => void;
  onFind: () => void;
}) {
  const { floor, nowMs, onTheme, onHelp, onFind } = props;
  return (
    <header className="header">
      <Link to="/" className="house">
        Ample Crane
      </Link>
      <span className="soft">{floor?.factory ?? ''}</span>
      {floor && (
        <>
          <strong>{sayClock(nowMs, floor.zone)}</strong>
          <span className="soft">
            {floor.shift
              ? `Shift ${floor.shift.name} to ${sayHour(floor.shift.endMs, floor.zone)}`
              : 'Closed now'}
          </span>
          <Link to="/flow/roster" className="in">
            {floor.peopleIn} of {floor.peopleAll} in
          </Link>
        </>
      )}
      <nav aria-label="Pages">
        <NavLink to="/" end>
          Board
        </NavLink>
        <NavLink to="/racks">Racks</NavLink>
        <NavLink to="/orders">Orders</NavLink>
        <NavLink to="/flow">Flow</NavLink>
        <NavLink to="/open">Open</NavLink>
        <Button color="inherit" variant="text" onClick={onFind}>
          Find
        </Button>
        <IconButton color="inherit" onClick={onTheme} aria-label="Night or day colours">
          <Contrast fontSize="small" />
        </IconButton>
        <UnitsButton />
        <Button color="inherit" variant="text" onClick={onHelp}>
          Keys
        </Button>
        <WhoIsHere />
      </nav>
    </header>
  );
}

function UnitsButton() {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  return (
    <>
      <IconButton color="inherit" onClick={(event) => setAnchor(event.currentTarget)} aria-label="Units">
        <Straighten fontSize="small" />
      </IconButton>
      {anchor && (
        <Suspense>
          <UnitsChoice anchor={anchor} onClose={() => setAnchor(null)} />
        </Suspense>
      )}
    </>
  );
}

function WhoIsHere() {
  const { by, choose } = usePerson();
  const { data } = useSetup();
  const people = data?.people ?? [];
  return (
    <Select
      variant="standard"
      disableUnderline
      value={people.some((person) => person.code === by) ? by : ''}
      onChange={(event) => choose(event.target.value)}
      inputProps={{ 'aria-label': 'Who is at this screen' }}
      sx={{
        color: '#FFFDF8',
        fontSize: 14,
        ml: 1,
        maxWidth: 190,
        minWidth: 0,
        flexShrink: 1,
        '& .MuiSvgIcon-root': { color: '#FFFDF8' },
      }}
    >
      {people.map((person) => (
        <MenuItem key={person.code} value={person.code}>
          {person.name} · {person.role}
        </MenuItem>
      ))}
    </Select>
  );
}

function ropeSections(floor: Floor, here: Stage | undefined): RopeSection[] {
  const tightStation = floor.stations.find((station) => station.code === floor.constraint?.station);
  return floor.stages.map((stage) => ({
    key: stage.stage,
    name: STAGE_NAMES[stage.stage],
    href: `/stage/${stage.stage}`,
    here: stage.stage === here,
    racks: stage.racks,
    pieces: stage.pieces,
    onHold: stage.onHold,
    words: `${stage.waiting} waiting · ${stage.inHand} in hand · ${stage.onHold} on hold`,
    tight:
      tightStation?.stage === stage.stage
        ? `tight: ${tightStation.name.toLowerCase()}, ${tightStation.days.toFixed(1)} days waiting`
        : null,
    sign:
      floor.constraint && tightStation?.stage === stage.stage
        ? `${tightStation.name} is marked: ${constraintWords(floor.constraint)}`
        : null,
  }));
}
