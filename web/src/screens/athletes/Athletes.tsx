// The gym's athletes: a list, and a page for each with what is known and believed of them.
import { Select, TextInput } from "@mantine/core";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useParams } from "react-router";
import { api, ask, type Schemas } from "../../api/client";
import { keys } from "../../api/keys";
import { athletes, benchmarks, ladders, pace, profile } from "../../api/queries";
import { useWrite } from "../../api/writes";
import { Frame } from "../../app/Frame";
import { Benchmarks } from "../../training/Benchmarks";
import { History } from "../../training/History";
import { PaceEstimates } from "../../training/PaceEstimates";
import { ProfileForm } from "../../training/ProfileForm";
import { RungLadder } from "../../training/RungLadder";
import { StrapField } from "../../training/StrapField";
import libraryStyles from "../../ui/library.module.css";
import pageStyles from "../../ui/page.module.css";
import { Failed, Waiting } from "../../ui/states";
import { Overview } from "./Overview";

type Athlete = Schemas["Athlete"];

function Page({ athlete, gym }: { athlete: Athlete; gym: Schemas["GymOut"] }) {
  const found = useQuery(profile(athlete.id));
  const families = useQuery(ladders);
  const bests = useQuery(benchmarks(athlete.id));
  const believed = useQuery(pace(athlete.id));
  const write = useWrite(
    (body: Schemas["AthleteChange"]) =>
      ask(
        api.PATCH("/api/athletes/{athlete_id}", {
          params: { path: { athlete_id: athlete.id } },
          body,
        }),
      ),
    { touches: () => [keys.athletes, keys.days], said: () => "Saved." },
  );
  const change = write.mutate;
  const keep = useWrite(
    (body: Schemas["ProfileForm"]) =>
      ask(
        api.PUT("/api/athletes/{athlete_id}/profile", {
          params: { path: { athlete_id: athlete.id } },
          body,
        }),
      ),
    { onRefused: () => undefined, touches: () => [keys.athletes, keys.days, keys.bests] },
  );
  if (found.error) return <Failed error={found.error} />;
  if (!found.data) return <Waiting />;
  const rungs = found.data.profile.rungs ?? {};
  const pinned = families.data?.filter((ladder) => rungs[ladder.name]) ?? [];
  return (
    <article className={pageStyles.athlete}>
      <header>
        <h1>{athlete.name}</h1>
        <div className={pageStyles.pick}>
          <Select
            label="Tier"
            allowDeselect={false}
            value={String(athlete.tier)}
            data={gym.tiers.map((label, value) => ({ label, value: String(value) }))}
            onChange={(value) => value !== null && change({ tier: Number(value) })}
          />
          <Select
            label="Track"
            allowDeselect={false}
            value={String(athlete.track)}
            data={gym.tracks.map((label, value) => ({ label, value: String(value) }))}
            onChange={(value) => value !== null && change({ track: Number(value) })}
          />
        </div>
      </header>
      {believed.data && <PaceEstimates pace={believed.data} />}
      {bests.data && <Benchmarks bests={bests.data} />}
      {pinned.length > 0 && (
        <div className={pageStyles.ladders}>
          {pinned.map((ladder) => (
            <RungLadder key={ladder.name} ladder={ladder} at={rungs[ladder.name] ?? ""} bare />
          ))}
        </div>
      )}
      <ProfileForm
        key={athlete.id}
        found={found.data}
        onSave={(profile, version) => keep.mutateAsync({ profile, version })}
      />
      <StrapField key={`strap/${athlete.id}`} athlete={athlete.id} />
      <History athlete={athlete.id} tiers={gym.tiers} />
    </article>
  );
}

export function Athletes({ me, gym }: { me: Schemas["Me"]; gym: Schemas["GymOut"] }) {
  const { id } = useParams();
  const [typed, setTyped] = useState("");
  const list = useQuery(athletes);
  const fits = (athlete: Athlete) => athlete.name.toLowerCase().includes(typed.toLowerCase());
  const chosen = list.data?.find((athlete) => String(athlete.id) === id);
  return (
    <Frame me={me} gymName={gym.name} today={gym.today} place="athletes">
      <div className={libraryStyles.library}>
        <section className={libraryStyles.list} aria-label="Athletes">
          <TextInput
            aria-label="Find an athlete"
            placeholder="Name"
            value={typed}
            onChange={(event) => setTyped(event.currentTarget.value)}
          />
          <p>
            <Link to="/people">Add or change people</Link>
          </p>
          {list.error && <Failed error={list.error} retry={() => list.refetch()} />}
          <ul>
            {list.data?.filter(fits).map((athlete) => (
              <li key={athlete.id}>
                <Link
                  to={`/athletes/${athlete.id}`}
                  aria-current={athlete.id === chosen?.id ? "page" : undefined}
                >
                  {athlete.name} <small>{gym.tiers[athlete.tier]}</small>
                </Link>
              </li>
            ))}
          </ul>
        </section>
        {chosen ? (
          <Page key={chosen.id} athlete={chosen} gym={gym} />
        ) : (
          <div>
            {id && list.data && <p role="alert">There is no such athlete in this gym.</p>}
            <Overview />
          </div>
        )}
      </div>
    </Frame>
  );
}
