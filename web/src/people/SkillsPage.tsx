import {
  Box,
  Button,
  Stack,
  Table,
  TableBody,
  TableCell,
  TableHead,
  TableRow,
  Typography,
} from '@mui/material';
import { degreeOf, type SkillDegree } from '@ample-crane/core';
import { useState } from 'react';

import { answered, server } from '../api/client.ts';
import { useSeenChange } from '../changes/useSeenChange.ts';
import { Verdict } from '../devices/Verdict.tsx';
import { AskChoice, AskDay, AskNumber, Form, useDraft } from '../fields/index.ts';
import { Columns, EmptyState, Panel, Quiet, Refused, Row, Sideways } from '../parts/index.ts';
import { sayDay } from '../shared/time.ts';
import { usePerform } from '../shared/usePerform.ts';
import { Degree, DEGREE_WORDS, DegreeChoice } from './Degree.tsx';
import { trainingWords, WHY_WORDS } from './words.ts';
import { knownChange } from '../changes/known-change.ts';
import { FlowOf } from '../flow/FlowOf.tsx';
import { useSkills, type Skills } from '../flow/queries.ts';
import { coverSentence, shareWords } from '../flow/words.ts';
import { useWindow, WindowChoice } from '../flow/WindowChoice.tsx';

/** Who can do what, how much of it is wanted, and what hangs on one or two people. */
export default function SkillsPage() {
  return <FlowOf asked={useSkills(useWindow())}>{(data) => <Grid data={data} />}</FlowOf>;
}

function Grid({ data }: { data: Skills }) {
  const { people, cover, shiftHours } = data;
  const [changing, setChanging] = useState(false);
  const { lastChange, lookAgain } = useSeenChange();
  const { perform, busy, refused } = usePerform();
  const turn = async (
    person: Skills['people'][number],
    skill: string,
    degree: SkillDegree,
  ): Promise<void> => {
    await perform(
      (by, key) =>
        answered(
          server.PUT('/api/setup/people/{code}/skill', {
            params: { path: { code: person.code } },
            body: { by, key, skill, degree, ...knownChange(lastChange()) },
          }),
        ),
      () => `${person.name} ${DEGREE_WORDS[degree]} ${skill} from now on.`,
    );
    await lookAgain();
  };
  return (
    <Columns>
      <Stack>
        <Verdict {...coverSentence(data)}>
          <Typography color="textSecondary">
            Wanted by the log: hours of work that came in the window, a working day. One person has{' '}
            {shiftHours.toFixed(1)} h.
          </Typography>
        </Verdict>
        <Panel label="Skill grid">
          <Row style={{ justifyContent: 'space-between' }}>
            <WindowChoice />
            <Button aria-pressed={changing} onClick={() => setChanging(!changing)}>
              {changing ? 'Done changing' : 'Change who can what'}
            </Button>
          </Row>
          <Refused words={refused} />
          {cover.length === 0 ? (
            <EmptyState>No work that needs a skill was logged in that time.</EmptyState>
          ) : (
            <Sideways>
              <Table size="small" aria-label="Skill grid" sx={{ minWidth: 520 }}>
                <TableHead>
                  <TableRow>
                    <TableCell scope="col" />
                    {cover.map(({ skill }) => (
                      <TableCell key={skill} scope="col" align="center">
                        {skill}
                      </TableCell>
                    ))}
                  </TableRow>
                </TableHead>
                <TableBody>
                  {people.map((person) => {
                    const { code, name, role, isAway } = person;
                    return (
                      <TableRow key={code}>
                        <TableCell component="th" scope="row" sx={{ whiteSpace: 'nowrap' }}>
                          {name}
                          <Quiet block small>
                            {role}
                            {isAway && ', away today'}
                          </Quiet>
                        </TableCell>
                        {cover.map(({ skill, people: able }) => (
                          <TableCell key={skill} align="center">
                            {changing ? (
                              <DegreeChoice
                                label={`${name}, ${skill}`}
                                degree={degreeOf(person, skill)}
                                disabled={busy}
                                onChange={(degree) => void turn(person, skill, degree)}
                              />
                            ) : (
                              <Known
                                degree={degreeOf(person, skill)}
                                isOnlyOne={able.length === 1}
                                isFaint={isAway}
                              />
                            )}
                          </TableCell>
                        ))}
                      </TableRow>
                    );
                  })}
                </TableBody>
              </Table>
            </Sideways>
          )}
          <Row style={{ gap: 18, marginTop: 10 }}>
            {(['learning', 'can', 'teaches'] as const).map((degree) => (
              <Row key={degree} style={{ gap: 8 }}>
                <Degree degree={degree} />
                <Quiet small>{DEGREE_WORDS[degree]}</Quiet>
              </Row>
            ))}
            <Quiet small>Red: nobody else can.</Quiet>
          </Row>
        </Panel>
      </Stack>
      <Stack>
        <Panel label="What hangs on whom">
          <Typography variant="h2">What hangs on whom</Typography>
          <Table size="small">
            <TableHead>
              <TableRow>
                <TableCell scope="col">skill</TableCell>
                <TableCell scope="col" align="right">
                  wanted
                </TableCell>
                <TableCell scope="col" align="right">
                  of their hours
                </TableCell>
                <TableCell scope="col" align="right">
                  one away
                </TableCell>
              </TableRow>
            </TableHead>
            <TableBody>
              {cover.map(({ skill, people: able, hoursADay, share, shareWithoutOne }) => (
                <TableRow key={skill}>
                  <TableCell>
                    <strong>{skill}</strong>
                    <Quiet block small>
                      {able.length} can{skill === data.paces && ', paces the house'}
                    </Quiet>
                  </TableCell>
                  <TableCell align="right">{hoursADay.toFixed(1)} h</TableCell>
                  <TableCell align="right">{share === null ? 'nobody' : shareWords(share)}</TableCell>
                  <TableCell align="right" className={isTight(shareWithoutOne) ? 'attention' : undefined}>
                    {shareWithoutOne === null ? 'stops' : shareWords(shareWithoutOne)}
                  </TableCell>
                </TableRow>
              ))}
            </TableBody>
          </Table>
        </Panel>
        <TrainFirst data={data} />
        <Away data={data} />
      </Stack>
    </Columns>
  );
}

function Known({ degree, ...look }: { degree: SkillDegree; isOnlyOne: boolean; isFaint: boolean }) {
  return degree === 'none' ? null : <Degree degree={degree} {...look} />;
}

/** Whom to train first, and how long it takes to learn. */
function TrainFirst({ data }: { data: Skills }) {
  const { trainings, training, people, paces } = data;
  const { perform, busy, refusal } = usePerform();
  const draft = useDraft('training days', BEGIN_TRAINING);
  const nameOf = (code: string): string => people.find((one) => one.code === code)?.name ?? code;
  const set = ({ skill, trainingDays }: typeof BEGIN_TRAINING): Promise<unknown> =>
    perform(
      (by, key) =>
        answered(
          server.PUT('/api/setup/skills', { body: { by, key, skill, trainingDays: Number(trainingDays) } }),
        ),
      ({ trainingDays: days }) => `${skill} takes ${days} working days to learn.`,
    );
  return (
    <Panel label="Whom to train first" stack>
      <Typography variant="h2">Whom to train first</Typography>
      {paces === null && (
        <Quiet>
          No skill paces the house: training makes it safer against somebody being away, not faster.
        </Quiet>
      )}
      {trainings.length === 0 && <EmptyState>Every skill that is wanted has enough people.</EmptyState>}
      {trainings.map((one) => (
        <Box key={one.skill}>
          <Typography>
            <strong>
              {nameOf(one.person)} in {one.skill}
            </strong>{' '}
            <Quiet>{WHY_WORDS[one.why]}</Quiet>
          </Typography>
          <Quiet block small>
            {trainingWords(one, nameOf)}
          </Quiet>
        </Box>
      ))}
      <Form
        draft={draft}
        label="How long it takes to learn"
        lay="stack"
        refusal={refusal}
        onFile={async (values) => (await set(values)) !== null}
      >
        <AskChoice
          name="skill"
          label="Skill"
          options={training.map(({ skill, days }) => ({ value: skill, words: `${skill}, ${days} d` }))}
          needed="which skill"
        />
        <Row>
          <AskNumber name="trainingDays" label="Days to learn" least={1} most={1000} whole />
          <Button type="submit" variant="outlined" disabled={busy}>
            Set
          </Button>
        </Row>
      </Form>
    </Panel>
  );
}

const BEGIN_TRAINING = { skill: '', trainingDays: '' };

/** More is wanted of those who remain than they have, or nobody remains. */
const isTight = (share: number | null): boolean => share === null || share > 1;

const BEGIN_AWAY = { person: '', fromDay: '', toDay: '' };

/** Who is away from today on; somebody is told to be, or to be here again. */
function Away({ data: { people, away, zone } }: { data: Skills }) {
  const { perform, busy, refusal } = usePerform();
  const draft = useDraft('away', BEGIN_AWAY);
  const tell = ({ person, fromDay, toDay }: typeof BEGIN_AWAY, isAway: boolean): Promise<unknown> =>
    perform(
      (by, key) =>
        answered(
          server.PUT('/api/setup/people/{code}/absences', {
            params: { path: { code: person } },
            body: { by, key, fromDay, toDay: toDay === '' ? fromDay : toDay, away: isAway },
          }),
        ),
      (days) =>
        days.length > 0
          ? `Away on ${days.length === 1 ? 'that day' : `${days.length} days`}.`
          : 'Here again.',
    );
  return (
    <Panel label="Who is away" stack>
      <Typography variant="h2">Who is away</Typography>
      {away.length === 0 && <EmptyState>Everybody is here.</EmptyState>}
      {away.map(({ person, name, day }) => (
        <Row key={`${person}${day}`} style={{ justifyContent: 'space-between', flexWrap: 'nowrap' }}>
          <Typography>
            {name} <Quiet>{sayDay(day)}</Quiet>
          </Typography>
          <Button
            size="small"
            disabled={busy}
            aria-label={`${name} is here on ${sayDay(day)}`}
            onClick={() => void tell({ person, fromDay: day, toDay: day }, false)}
          >
            Here
          </Button>
        </Row>
      ))}
      <Form
        draft={draft}
        label="Somebody is away"
        lay="stack"
        refusal={refusal}
        onFile={async (values) => (await tell(values, true)) !== null}
      >
        <AskChoice
          name="person"
          label="Who"
          options={people.map(({ code, name }) => ({ value: code, words: name }))}
          needed="who it is"
        />
        <Row>
          <AskDay name="fromDay" label="From" zone={zone} needed="a day" width={165} />
          <AskDay name="toDay" label="To (the last day)" zone={zone} width={165} />
        </Row>
        <Button type="submit" variant="outlined" disabled={busy}>
          Away
        </Button>
      </Form>
    </Panel>
  );
}
