// What each tier is predicted to do: the range of most, its middle, and the coach's target.
import type { Schemas } from "../api/client";
import styles from "./TestrunBand.module.css";

type Prediction = Schemas["PiecePrediction"];
type Tier = Schemas["TierPrediction"];
type Band = Schemas["Band"];

function shown(piece: Prediction, tier: Tier): Band {
  const byTime = piece.target?.unit === "time" || tier.run.result === null;
  return byTime ? tier.run.time_s : (tier.run.result as Band);
}

function Range({ band, low, high }: { band: Band; low: number; high: number }) {
  const at = (value: number) => `${((value - low) / (high - low || 1)) * 100}%`;
  return (
    <>
      <span
        className={styles.range}
        style={{ left: at(band.p10), width: `calc(${at(band.p90)} - ${at(band.p10)})` }}
      />
      <span className={styles.middle} style={{ left: at(band.p50) }} />
    </>
  );
}

/** Work and rest of each station's windows, for one tier. */
function Stations({ tier }: { tier: Tier }) {
  return (
    <ul className={styles.stations}>
      {tier.run.windows.map((window) => {
        const length = window.work_s.p50 + window.rest_s.p50 || 1;
        return (
          <li key={window.station}>
            <span className="num">{window.station}</span>
            <span className={styles.stationStrip} aria-hidden>
              <i style={{ width: `${(window.work_s.p50 / length) * 100}%` }} />
            </span>
            <span className="num">
              {Math.round(window.work_s.p50)} s work, {Math.round(window.rest_s.p50)} s rest
              {window.overfull >= 0.05 && `, ${Math.round(window.overfull * 100)} % not done`}
            </span>
          </li>
        );
      })}
    </ul>
  );
}

/** From this share on it is told that some of a tier cannot do what is asked. */
const TOLD_SHARE = 0.05;

function Details({ tier }: { tier: Tier }) {
  const { run } = tier;
  const reps = Object.entries(run.reps);
  const unable = Object.entries(run.unable).filter(([, share]) => share >= TOLD_SHARE);
  return (
    <div className={styles.details}>
      {unable.map(([name, share]) => (
        <p key={name} className={styles.unable}>
          {Math.round(share * 100)} % of this tier cannot do {name} as asked; what follows is of the
          others.
        </p>
      ))}
      {run.windows.length > 0 && <Stations tier={tier} />}
      {run.blocks.length > 1 && (
        <p>
          Rounds by block:{" "}
          <span className="num">
            {run.blocks.map((block) => block.rounds.p50.toFixed(1)).join(" · ")}
          </span>
        </p>
      )}
      {reps.length > 0 && (
        <p>
          Reps that put most on target:{" "}
          {reps.map(([name, band]) => `${Math.round(band.p50)} ${name}`).join(", ")}
        </p>
      )}
      <p>
        {run.landings.p50 >= 1 && <>About {Math.round(run.landings.p50)} landings. </>}
        {run.tonnage_kg.p50 >= 1 && <>About {Math.round(run.tonnage_kg.p50)} kg lifted. </>}
        {run.put_downs.p50 >= 0.5 && (
          <>
            About {Math.round(run.put_downs.p50)}{" "}
            {Math.round(run.put_downs.p50) === 1 ? "break" : "breaks"} or put-downs,{" "}
            {Math.round(run.pauses_s.p50)} s.{" "}
          </>
        )}
        {run.last_round && run.last_round.p50 > 1.02 && (
          <>Last rounds {Math.round((run.last_round.p50 - 1) * 100)} % slower than the first. </>
        )}
      </p>
    </div>
  );
}

export function TestrunBand({
  title,
  piece,
  tier,
}: {
  title: string;
  piece: Prediction;
  tier: number;
}) {
  const bands = piece.tiers.map((each) => shown(piece, each));
  const ends = bands.flatMap((band) => [band.p10, band.p90]);
  if (piece.target) ends.push(piece.target.low, piece.target.high);
  const pad = (Math.max(...ends) - Math.min(...ends)) * 0.08 || 1;
  const low = Math.min(...ends) - pad;
  const high = Math.max(...ends) + pad;
  const at = (value: number) => `${((value - low) / (high - low)) * 100}%`;
  const chosen = piece.tiers[Math.min(tier, piece.tiers.length - 1)];
  const told = piece.tiers.some((each) => each.run.result) || bands.some((b) => b.p10 !== b.p90);
  if (!told && chosen?.run.windows.length === 0 && !piece.after) return null;
  return (
    <section className={styles.testrun} aria-label={`Test-run of ${title}`}>
      {told && (
        <ul>
          {piece.tiers.map((each, index) => (
            <li key={each.name} data-chosen={index === tier || undefined}>
              <span>{each.name}</span>
              <span className={styles.band} aria-hidden>
                {piece.target && (
                  <span
                    className={styles.target}
                    style={{
                      left: at(piece.target.low),
                      width: `calc(${at(piece.target.high)} - ${at(piece.target.low)})`,
                    }}
                  />
                )}
                <Range band={bands[index] as Band} low={low} high={high} />
              </span>
              <span className="num">
                {each.words}
                {each.aim && (
                  <b className={styles.aim} data-aim={each.aim}>
                    {each.aim === "on target" ? "on target" : `${each.aim} ${piece.target_words}`}
                  </b>
                )}
              </span>
            </li>
          ))}
        </ul>
      )}
      {piece.after && <p className={styles.after}>{piece.after}</p>}
      {chosen && (
        <details open={!told}>
          <summary>Time breakdown, {chosen.name}</summary>
          <Details tier={chosen} />
        </details>
      )}
    </section>
  );
}
