// One half of my profile, kept whole.
import { useQuery } from "@tanstack/react-query";
import { api, ask, type Schemas } from "../../api/client";
import { keys } from "../../api/keys";
import { myProfile } from "../../api/queries";
import { useWrite } from "../../api/writes";
import { ProfileForm } from "../../training/ProfileForm";
import { Failed, Waiting } from "../../ui/states";

export function MyProfile({ only }: { only: "bests" | "settings" }) {
  const keep = useWrite(
    (body: Schemas["ProfileForm"]) => ask(api.PUT("/api/me/profile", { body })),
    { onRefused: () => undefined, touches: () => [keys.mine, keys.days, keys.bests] },
  );
  const found = useQuery(myProfile);
  if (found.error) return <Failed error={found.error} retry={() => found.refetch()} />;
  if (!found.data) return <Waiting />;
  return (
    <ProfileForm
      found={found.data}
      only={only}
      onSave={(profile, version) => keep.mutateAsync({ profile, version })}
    />
  );
}
