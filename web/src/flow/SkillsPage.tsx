import { Box, Stack, Table, TableBody, TableCell, TableHead, TableRow, Typography } from '@mui/material';
import { Verdict } from '../devices/Verdict.tsx';
import { Columns, EmptyState, Opening, Page, Panel, Quiet, Sideways } from '../parts/index.ts';
import { FlowNav } from '../shared/FlowNav.tsx';
import { useSkills, type Skills } from './queries.ts';
import { coverSentence, shareWords } from './words.ts';
import { useWindow, WindowChoice } from './WindowChoice.tsx';

/** Who can do what, how much of it is wanted, and what hangs on one or two people. */
export default function SkillsPage() {
  const days = useWindow();
  const { data, error } = useSkills(days);
  return (
    <Page title="Flow" tabs={<FlowNav />}>
      {data ? <Grid data={data} /> : <Opening error={error} words="Reading the log…" />}
    </Page>
  );
}

function Grid({ data }: { data: Skills }) {
  const { people, cover, shiftHours } = data;
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
          <WindowChoice />
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
                  {people.map(({ code, name, role, skills, isAway }) => (
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
                          {skills.includes(skill) && (
                            <Box
                              component="span"
                              role="img"
                              aria-label={able.length === 1 ? 'the only one who can' : 'can'}
                              sx={{
                                ...{ display: 'inline-block', width: 14, height: 14 },
                                background: able.length === 1 ? 'var(--oxblood)' : 'var(--ebony)',
                                opacity: isAway ? 0.35 : 1,
                              }}
                            />
                          )}
                        </TableCell>
                      ))}
                    </TableRow>
                  ))}
                </TableBody>
              </Table>
            </Sideways>
          )}
        </Panel>
      </Stack>
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
    </Columns>
  );
}

/** More is wanted of those who remain than they have, or nobody remains. */
const isTight = (share: number | null): boolean => share === null || share > 1;
