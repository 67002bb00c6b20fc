// Who is here: typed in, ticked, or checked in by phone.
import { Select } from "@mantine/core";
import { useQueryClient } from "@tanstack/react-query";
import { api, ask, type Schemas } from "../../api/client";

export function Here({
  floor,
  held,
  date,
}: {
  floor: Schemas["FloorOut"];
  held: Schemas["ClassHeld"];
  date: string;
}) {
  const client = useQueryClient();
  const mark = async (person_id: number, here: boolean) => {
    await ask(
      api.PUT("/api/classes/{class_id}/here/{person_id}", {
        params: { path: { class_id: held.id ?? 0, person_id } },
        body: { here },
      }),
    );
    await client.invalidateQueries({ queryKey: ["floor", date] });
    client.invalidateQueries({ queryKey: ["lanes"] });
  };
  const here = floor.people.filter((person) => held.here.includes(person.id));
  const flagged = here.some((person) => person.flag);
  return (
    <section className="here">
      <h2>
        Here <small className="num">{here.length}</small>
      </h2>
      <Select
        aria-label="Who came"
        placeholder="Type a name"
        searchable
        value={null}
        onChange={(value) => value && mark(Number(value), true)}
        data={floor.people
          .filter((person) => !held.here.includes(person.id))
          .map((person) => ({ value: String(person.id), label: person.name }))}
      />
      <ul>
        {here.map((person) => (
          <li key={person.id}>
            {person.name}
            {person.flag && <em> {person.flag}</em>}
            <button
              type="button"
              aria-label={`${person.name} is not here`}
              onClick={() => mark(person.id, false)}
            >
              ×
            </button>
          </li>
        ))}
      </ul>
      {flagged && <p className="safety">{floor.readiness}</p>}
    </section>
  );
}
