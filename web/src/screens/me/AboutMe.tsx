// What I did and what I can do: my progress, my bests and rungs.
import { useQuery } from "@tanstack/react-query";
import { useParams } from "react-router";
import type { Schemas } from "../../api/client";
import { ladders, myBenchmarks, myPace, myProfile } from "../../api/queries";
import { Frame } from "../../app/Frame";
import { Beliefs } from "../../session/Beliefs";
import { Benchmarks } from "../../session/Benchmarks";
import { History } from "../../session/History";
import { RungLadder } from "../../session/RungLadder";
import pageStyles from "../../ui/page.module.css";
import { MyProfile } from "./MyProfile";
import { Places } from "./Places";

function Progress({ tiers }: { tiers: readonly string[] }) {
  const pace = useQuery(myPace);
  return (
    <>
      <History athlete={null} tiers={tiers} />
      {pace.data && <Beliefs pace={pace.data} />}
    </>
  );
}

function MyBests() {
  const bests = useQuery(myBenchmarks);
  const families = useQuery(ladders);
  const rungs = useQuery(myProfile).data?.profile.rungs ?? {};
  const pinned = families.data?.filter((ladder) => rungs[ladder.name]) ?? [];
  return (
    <>
      {bests.data && <Benchmarks bests={bests.data} />}
      {pinned.length > 0 && (
        <div className={pageStyles.ladders}>
          {pinned.map((ladder) => (
            <RungLadder key={ladder.name} ladder={ladder} at={rungs[ladder.name] ?? ""} bare />
          ))}
        </div>
      )}
      <MyProfile only="bests" />
    </>
  );
}

export function AboutMe({ me, gym }: { me: Schemas["Me"]; gym: Schemas["GymOut"] }) {
  const bests = useParams().part === "bests";
  return (
    <Frame me={me} gymName={gym.name} today={gym.today} place="me">
      <article className={pageStyles.athlete}>
        <h1>{me.name}</h1>
        <Places at={bests ? "/profile/bests" : "/profile"} />
        {bests ? <MyBests /> : <Progress tiers={gym.tiers} />}
      </article>
    </Frame>
  );
}
