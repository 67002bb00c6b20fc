// The bests board of the gym: boards it keeps to repeat, and lifts across bodyweights.
import { useQuery } from "@tanstack/react-query";
import type { Schemas } from "../api/client";
import { bests as bestsQuery } from "../api/queries";
import { spoken } from "../parts/dates";
import { Frame } from "../parts/Frame";
import { Empty, Failed, Waiting } from "../parts/states";

export function Bests({ me, gym }: { me: Schemas["Me"]; gym: Schemas["GymOut"] }) {
  const found = useQuery(bestsQuery);
  return (
    <Frame me={me} gymName={gym.name} today={gym.today} place="bests">
      <div className="history bests">
        <h1>Bests</h1>
        {found.error && <Failed error={found.error} retry={() => found.refetch()} />}
        {found.isPending && <Waiting />}
        {found.data && found.data.boards.length + found.data.lifts.length === 0 && (
          <Empty>
            <p>Keep a board in the bank to see its bests here.</p>
          </Empty>
        )}
        {found.data && found.data.boards.length > 0 && (
          <table>
            <tbody>
              {found.data.boards.map((one) => (
                <tr key={`${one.board}/${one.piece}/${one.tier}/${one.track}`}>
                  <th scope="row">
                    {one.piece} <small>{one.board}</small>
                  </th>
                  <td>
                    {gym.tiers[one.tier]} <small>{gym.tracks[one.track]?.toLowerCase()}</small>
                  </td>
                  <td className="num">
                    <b>{one.display}</b>
                  </td>
                  <td>
                    {one.name} <small>{spoken(one.date)}</small>
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        )}
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
