import { createContext, useContext } from "react";
import type { Me, Units } from "../api/types.ts";
import type { Clock } from "../format/clock.ts";

export type Session = {
  me: Me;
  system: Units;
  setSystem: (units: Units) => void;
  setClock: (clock: Clock) => void;
  signOut: () => void;
};
export const SessionContext = createContext<Session | null>(null);

export function useSession(): Session {
  const session = useContext(SessionContext);
  if (!session) throw new Error("useSession needs SessionGate around it");
  return session;
}
