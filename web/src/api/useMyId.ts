// Who is signed in, for what belongs to them.
import { useQuery } from "@tanstack/react-query";
import { me } from "./queries";

export const useMyId = (): number => useQuery(me).data?.id ?? 0;
