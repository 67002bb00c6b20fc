// Dot strip and tier sections, on the coach's Compare and on the athlete's phone.
import { useQuery } from "@tanstack/react-query";
import { memo, useDeferredValue } from "react";
import type { Schemas } from "../api/client";
import { type Filter, standings } from "../api/queries";
import { Empty, Failed, Waiting } from "../ui/states";
import wordStyles from "../ui/words.module.css";
import { DotStrip, type Found } from "./DotStrip";
import styles from "./Standings.module.css";

type Props = {
  date: string;
  pieceKey: string;
  gym: Schemas["GymOut"];
  filter: Filter;
  mine?: number;
  /** Names and places alone, without the strip of dots. */
  bare?: boolean;
  /** A press on a name follows them. */
  onFollow?: (athlete: number) => void;
};

export function Standings({ date, pieceKey, gym, filter, mine, bare, onFollow }: Props) {
  const found = useQuery(standings(date, pieceKey, filter));
  // Beside a sheet that is filled in keys come first.
  const shown = useDeferredValue(found.data);
  if (found.error) return <Failed error={found.error} retry={() => found.refetch()} />;
  if (!shown) return <Waiting />;
  return <Sections found={shown} gym={gym} mine={mine} bare={bare} onFollow={onFollow} />;
}

const Sections = memo(function Sections({
  found,
  gym,
  mine,
  bare,
  onFollow,
}: Pick<Props, "gym" | "mine" | "bare" | "onFollow"> & { found: Found }) {
  const { sections } = found;
  if (sections.length === 0) {
    return (
      <Empty>
        <p>No scores here yet.</p>
      </Empty>
    );
  }
  return (
    <>
      {!bare && <DotStrip found={found} tiers={gym.tiers} mine={mine} />}
      <div className={styles.sections}>
        {sections.map((section) => (
          <section className={styles.section} key={section.tier}>
            <h2>
              {section.tier === null ? "All tiers" : gym.tiers[section.tier]}{" "}
              <small>
                {section.places.length} {section.places.length === 1 ? "athlete" : "athletes"}
              </small>
            </h2>
            {section.spread && <p className={`${styles.spread} num`}>{section.spread.words}</p>}
            <table>
              <tbody>
                {section.places.map((place) => (
                  <tr
                    key={place.entry.athlete_id}
                    data-mine={place.entry.athlete_id === mine || undefined}
                  >
                    <td className="num">
                      {place.rank}
                      {place.tied && <small title="shared rank">=</small>}
                    </td>
                    <td>
                      {onFollow ? (
                        <button
                          type="button"
                          className={styles.follow}
                          aria-pressed={place.entry.athlete_id === mine}
                          title={`Follow ${place.entry.name}`}
                          onClick={() => onFollow(place.entry.athlete_id)}
                        >
                          {place.entry.name}
                        </button>
                      ) : (
                        place.entry.name
                      )}
                      {!onFollow && place.entry.athlete_id === mine && <small> you</small>}{" "}
                      <small>{gym.tracks[place.entry.track]?.toLowerCase()}</small>
                    </td>
                    <td className="num">
                      {place.entry.display}
                      {place.entry.to_verify && (
                        <small className={wordStyles.verify} title={place.entry.to_verify}>
                          needs checking
                        </small>
                      )}
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
          </section>
        ))}
      </div>
    </>
  );
});
