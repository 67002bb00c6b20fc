// What is known of me: my ladders and bests, what limits me, and what my scores say of my pace.
import { useQuery } from "@tanstack/react-query";
import { api, ask, type Schemas } from "../../api/client";
import { keys } from "../../api/keys";
import { ladders, myBenchmarks, myPace, myProfile } from "../../api/queries";
import { useWrite } from "../../api/writes";
import { Frame } from "../../app/Frame";
import { Beliefs } from "../../session/Beliefs";
import { Benchmarks } from "../../session/Benchmarks";
import { History } from "../../session/History";
import { ProfileForm } from "../../session/ProfileForm";
import { RungLadder } from "../../session/RungLadder";
import pageStyles from "../../ui/page.module.css";
import { Failed, Waiting } from "../../ui/states";

export function AboutMe({ me, gym }: { me: Schemas["Me"]; gym: Schemas["GymOut"] }) {
  const keep = useWrite(
    (body: Schemas["ProfileForm"]) => ask(api.PUT("/api/me/profile", { body })),
    { onRefused: () => undefined, touches: () => [keys.mine, keys.days, keys.bests] },
  );
  const found = useQuery(myProfile);
  const bests = useQuery(myBenchmarks);
  const pace = useQuery(myPace);
  const families = useQuery(ladders);
  const rungs = found.data?.profile.rungs ?? {};
  const pinned = families.data?.filter((ladder) => rungs[ladder.name]) ?? [];
  return (
    <Frame me={me} gymName={gym.name} today={gym.today} place="me">
      <article className={pageStyles.athlete}>
        <h1>{me.name}</h1>
        {found.error && <Failed error={found.error} />}
        {found.isPending && <Waiting />}
        {pace.data && <Beliefs pace={pace.data} />}
        {bests.data && <Benchmarks bests={bests.data} />}
        <History athlete={null} tiers={gym.tiers} />
        {pinned.length > 0 && (
          <div className={pageStyles.ladders}>
            {pinned.map((ladder) => (
              <RungLadder key={ladder.name} ladder={ladder} at={rungs[ladder.name] ?? ""} bare />
            ))}
          </div>
        )}
        {found.data && (
          <ProfileForm
            found={found.data}
            onSave={(profile, version) => keep.mutateAsync({ profile, version })}
          />
        )}
      </article>
    </Frame>
  );
}
