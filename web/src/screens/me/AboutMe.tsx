// What I did and what I can do: my progress, my bests and rungs.
import { useQuery } from "@tanstack/react-query";
import { useParams } from "react-router";
import type { Schemas } from "../../api/client";
import { ladders, myBenchmarks, myPace, myProfile } from "../../api/queries";
import { Frame } from "../../app/Frame";
import { Benchmarks } from "../../training/Benchmarks";
import { History } from "../../training/History";
import { PaceEstimates } from "../../training/PaceEstimates";
import { RungLadder } from "../../training/RungLadder";
import pageStyles from "../../ui/page.module.css";
import { MyPages } from "./MyPages";
import { MyProfile } from "./MyProfile";

function Progress({ tiers }: { tiers: readonly string[] }) {
  const pace = useQuery(myPace);
  return (
    <>
      <History athlete={null} tiers={tiers} />
      {pace.data && <PaceEstimates pace={pace.data} />}
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
        <MyPages at={bests ? "/profile/bests" : "/profile"} />
        {bests ? <MyBests /> : <Progress tiers={gym.tiers} />}
      </article>
    </Frame>
  );
}
