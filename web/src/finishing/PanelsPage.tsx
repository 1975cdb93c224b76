import { Button } from '@mui/material';
import { useState } from 'react';
import { Link, useParams } from 'react-router';
import { answered, server } from '../api/client.ts';
import { sayClock, sayTime, useFactoryNow } from '../shared/time.ts';
import { typedNumber } from '../shared/typed.ts';
import { usePerform } from '../shared/usePerform.ts';
import { unlessTypedSince } from '../shared/unless-typed-since.ts';
import { Refused } from '../devices/Refused.tsx';
import { Verdict } from '../devices/Verdict.tsx';
import { Typed } from '../fields/Typed.tsx';
import { FinishNav } from './FinishNav.tsx';
import { PanelChart } from './PanelChart.tsx';
import { usePanels, useRecipes, type Panel, type PanelOffer, type Panels } from './queries.ts';
import { rescaled } from './recipe-draft.ts';

/** Test panels: what each says, and the hours they offer their recipes. */
export default function PanelsPage() {
  const { code } = useParams();
  const { data, dataUpdatedAt, error } = usePanels();
  const nowMs = useFactoryNow(data, dataUpdatedAt);
  if (!data) return <p className="title">{error?.message ?? 'Opening…'}</p>;
  const shown =
    data.panels.find((panel) => panel.code === code) ??
    data.panels.find(({ fit }) => fit !== null) ??
    data.panels[0];
  return (
    <>
      <div className="title">
        <h1>Test panels</h1>
        <FinishNav />
      </div>
      <div className="columns">
        <div className="stack">
          {!shown && (
            <Verdict
              tone="wait"
              sentence="No panel hangs yet. Spray one with a rack, weigh it, and hang it up from the rack’s page."
            />
          )}
          {shown && <OnePanel key={shown.code} panel={shown} zone={data.zone} nowMs={nowMs} />}
        </div>
        <div className="stack">
          <Offers panels={data} />
          <section className="panel" aria-label="All panels">
            <h2>All panels</h2>
            <table>
              <tbody>
                {data.panels.map((panel) => (
                  <tr key={panel.code} aria-current={panel.code === shown?.code}>
                    <td style={{ whiteSpace: 'nowrap' }}>
                      <Link to={`/finish/panels/${panel.code}`}>{panel.code}</Link>
                    </td>
                    <td>
                      <Link to={`/finish/rack/${panel.batch}`}>{panel.batch}</Link>
                      <div className="quiet">{panel.material}</div>
                    </td>
                    <td>
                      {panel.curedMs === null
                        ? (panel.notEnough ?? '')
                        : `cured ${panel.curedMs <= nowMs ? 'since' : 'by'} ${sayTime(panel.curedMs, data.zone, nowMs)}`}
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
          </section>
        </div>
      </div>
    </>
  );
}

function OnePanel({ panel, zone, nowMs }: { panel: Panel; zone: string; nowMs: number }) {
  const { fit, curedMs } = panel;
  const cured = curedMs !== null && curedMs <= nowMs;
  const at = (hours: number): string => sayTime(panel.sprayedMs + hours * 3_600_000, zone, nowMs);
  const sentence = fit
    ? `${panel.code} ${cured ? 'is cured since' : 'will be cured by'} ${at(fit.curedAtHours)}, between ${at(fit.low90)} and ${at(fit.high90)}: ${panel.lostPct?.toFixed(1) ?? ''} % of its solvent is gone, τ ${fit.tauHours.toFixed(0)} h.`
    : `${panel.code} cannot tell yet: ${panel.notEnough ?? ''}.`;
  return (
    <Verdict tone={cured ? 'good' : fit ? 'hold' : 'wait'} sentence={sentence}>
      <p className="quiet">
        Sprayed with <Link to={`/finish/rack/${panel.batch}`}>{panel.batch}</Link>{' '}
        {sayClock(panel.sprayedMs, zone)}: {panel.material}, {panel.filmUm.toFixed(0)} µm dry, hangs in{' '}
        {panel.room}.
        {panel.referenceHours !== null &&
          ` It says ${panel.referenceHours.toFixed(0)} reference hours to buff.`}
      </p>
      <PanelChart panel={panel} zone={zone} />
      <Weigh panel={panel} />
      <details>
        <summary>Weighings</summary>
        <table>
          <tbody>
            {panel.weighings.toReversed().map((one) => (
              <tr key={one.atMs}>
                <td>{sayClock(one.atMs, zone)}</td>
                <td className="number">{one.hours.toFixed(1)} h</td>
                <td className="number">{one.grams.toFixed(3)} g</td>
                <td className="quiet">{one.person}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </details>
    </Verdict>
  );
}

function Weigh({ panel }: { panel: Panel }) {
  const { perform, busy, refused } = usePerform();
  const [text, setText] = useState('');
  const grams = typedNumber(text);
  const weigh = async (): Promise<void> => {
    const done = await perform(
      (by, key) =>
        answered(
          server.POST('/api/finish/panels/{code}/weighings', {
            params: { path: { code: panel.code } },
            body: { key, by, grams: grams ?? 0 },
          }),
        ),
      ({ weighings }) => `${panel.code}: weighing ${weighings.length} kept.`,
    );
    if (done) setText(unlessTypedSince(text));
  };
  return (
    <form
      className="row"
      style={{ margin: '8px 0' }}
      onSubmit={(event) => {
        event.preventDefault();
        void weigh();
      }}
    >
      <Typed label="Weight now, g" text={text} onChange={setText} width={150} />
      <Button type="submit" variant="contained" disabled={busy || grams === null}>
        Keep the weighing
      </Button>
      <Refused words={refused} />
    </form>
  );
}

/** The hours its panels offer a recipe, with their spread; taking them makes a new revision. */
function Offers({ panels }: { panels: Panels }) {
  if (panels.offers.length === 0) return null;
  return (
    <section className="panel" aria-label="Hours offered">
      <h2>Hours offered</h2>
      <p className="quiet">What the panels so far say of each material, at the recipe’s own film.</p>
      {panels.offers.map((offer) => (
        <Offer key={`${offer.recipe}${offer.step}`} offer={offer} />
      ))}
    </section>
  );
}

function Offer({ offer }: { offer: PanelOffer }) {
  const { perform, busy, refused } = usePerform();
  const { data: recipes } = useRecipes();
  const newest = recipes?.recipes.find(({ name, newest: isNewest }) => name === offer.recipe && isNewest);
  const { hours, sd, panels } = offer.offered;
  const take = (): Promise<unknown> =>
    perform(
      (by, key) => {
        if (!newest) throw new Error('take: the recipe is not loaded');
        const recipe = rescaled(newest.recipe, offer.step, Math.round(hours));
        const note = `hours to buff from ${panels} test panels: ${Math.round(hours)}${sd === null ? '' : ` ± ${sd.toFixed(0)}`}`;
        return answered(
          server.POST('/api/finish/recipes', { body: { key, by, recipe, note, from: newest.revision } }),
        );
      },
      ({ id }) => `${id} is made; racks opened from now on get it.`,
    );
  return (
    <div style={{ marginTop: 8 }}>
      <p>
        <Link to={`/finish/recipes/${offer.recipe}`}>{newest?.recipe.title ?? offer.recipe}</Link>,{' '}
        {offer.material}: <strong>{hours.toFixed(0)} h</strong>{' '}
        {sd === null ? 'from one panel' : `± ${sd.toFixed(0)} from ${panels} panels`}, the recipe has{' '}
        {offer.hoursNow.toFixed(0)} h.
      </p>
      {Math.abs(hours - offer.hoursNow) >= 1 && (
        <Button disabled={busy || !newest} onClick={() => void take()}>
          Take {hours.toFixed(0)} h into the recipe
        </Button>
      )}
      <Refused words={refused} />
    </div>
  );
}
