// The bests board of the gym: boards it keeps to repeat, and lifts across bodyweights.
import { useQuery } from "@tanstack/react-query";
import type { Schemas } from "../../api/client";
import { bests as bestsQuery } from "../../api/queries";
import { Frame } from "../../app/Frame";
import { brief } from "../../ui/dates";
import { Empty, Failed, Waiting } from "../../ui/states";
import styles from "./Bests.module.css";

type Best = Schemas["BestOut"];

function byPiece(boards: Best[]): Map<string, Best[]> {
  const found = new Map<string, Best[]>();
  for (const one of boards) {
    const key = `${one.board}/${one.piece}`;
    found.set(key, [...(found.get(key) ?? []), one]);
  }
  return found;
}

/** The bests of one piece: a row a tier, a column a track. */
function PieceBests({ held, gym }: { held: Best[]; gym: Schemas["GymOut"] }) {
  const piece = held[0]?.piece;
  const board = held[0]?.board;
  const tracks = gym.tracks.map((label, track) => ({ label, track }));
  return (
    <section>
      <h2>
        {piece} {board !== piece && <small>on {board}</small>}
      </h2>
      <table>
        <thead>
          <tr>
            <td />
            {tracks.map(({ label }) => (
              <th key={label} scope="col">
                {label}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {gym.tiers.map((label, tier) => {
            const row = held.filter((one) => one.tier === tier);
            if (row.length === 0) return null;
            return (
              <tr key={label}>
                <th scope="row">{label}</th>
                {tracks.map(({ label, track }) => {
                  const one = row.find((best) => best.track === track);
                  return (
                    <td key={label}>
                      {one ? (
                        <>
                          <b className="num">{one.display}</b> {one.name}{" "}
                          <small>{brief(one.date)}</small>
                        </>
                      ) : (
                        "–"
                      )}
                    </td>
                  );
                })}
              </tr>
            );
          })}
        </tbody>
      </table>
    </section>
  );
}

export function Bests({ me, gym }: { me: Schemas["Me"]; gym: Schemas["GymOut"] }) {
  const found = useQuery(bestsQuery);
  return (
    <Frame me={me} gymName={gym.name} today={gym.today} place="bests">
      <div className={styles.bests}>
        <h1>Bests</h1>
        {found.error && <Failed error={found.error} retry={() => found.refetch()} />}
        {found.isPending && <Waiting />}
        {found.data && found.data.boards.length + found.data.lifts.length === 0 && (
          <Empty>
            <p>Save a day to see its bests here.</p>
          </Empty>
        )}
        <div className={styles.pieces}>
          {[...byPiece(found.data?.boards ?? [])].map(([key, held]) => (
            <PieceBests key={key} held={held} gym={gym} />
          ))}
        </div>
        {found.data?.lifts.map((board) => (
          <section key={board.lift}>
            <h2>{board.lift}, across bodyweights</h2>
            <table>
              <tbody>
                {board.rows.map((row) => (
                  <tr key={row.name}>
                    <th scope="row">{row.name}</th>
                    <td className="num">{row.kg} kg</td>
                    <td className="num">
                      {row.points} points <small>by the {row.reference}’s formula</small>
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
          </section>
        ))}
        <p>
          <small>
            Only verified scores, and only athletes who are shown in standings. Points are the DOTS
            coefficient times the load; lifts appear for those who agreed to be compared.
          </small>
        </p>
      </div>
    </Frame>
  );
}
