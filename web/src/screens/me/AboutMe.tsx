// What is known of me: my ladders and bests, what limits me, and what my scores say of my pace.
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { api, ask, type Schemas } from "../api/client";
import { ladders, myBenchmarks, myPace, myProfile } from "../api/queries";
import { Beliefs } from "../athletes/Beliefs";
import { Benchmarks } from "../athletes/Benchmarks";
import { ProfileForm } from "../athletes/ProfileForm";
import { RungLadder } from "../movements/RungLadder";
import { Frame } from "../parts/Frame";
import { History } from "../parts/History";
import { Failed, Waiting } from "../parts/states";

export function AboutMe({ me, gym }: { me: Schemas["Me"]; gym: Schemas["GymOut"] }) {
  const client = useQueryClient();
  const found = useQuery(myProfile);
  const bests = useQuery(myBenchmarks);
  const pace = useQuery(myPace);
  const families = useQuery(ladders);
  const rungs = found.data?.profile.rungs ?? {};
  const pinned = families.data?.filter((ladder) => rungs[ladder.name]) ?? [];
  return (
    <Frame me={me} gymName={gym.name} today={gym.today} place="me">
      <article className="athlete">
        <h1>{me.name}</h1>
        {found.error && <Failed error={found.error} />}
        {found.isPending && <Waiting />}
        {pace.data && <Beliefs pace={pace.data} />}
        {bests.data && <Benchmarks bests={bests.data} />}
        <History athlete={null} tiers={gym.tiers} />
        {pinned.length > 0 && (
          <div className="athlete-ladders">
            {pinned.map((ladder) => (
              <RungLadder key={ladder.name} ladder={ladder} at={rungs[ladder.name] ?? ""} bare />
            ))}
          </div>
        )}
        {found.data && (
          <ProfileForm
            key={found.data.version}
            initial={found.data.profile}
            onSave={async (profile) => {
              const body = { profile, version: found.data.version };
              await ask(api.PUT("/api/me/profile", { body }));
              await client.invalidateQueries();
            }}
          />
        )}
      </article>
    </Frame>
  );
}
