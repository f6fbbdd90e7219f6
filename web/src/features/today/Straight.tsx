import { useQuery } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { Navigate, useNavigate } from "react-router";
import { client, NoAnswer, newIds, saidOf, take } from "../../api/client.ts";
import { jobsQuery } from "../../api/queries.ts";
import { Frame } from "../../app/Frame.tsx";
import { useSession } from "../../app/session.ts";
import { Waiting } from "../../parts/Waiting.tsx";

/** From the home screen straight into a new quick total. */
export function StraightToQuick() {
  const { me } = useSession();
  const navigate = useNavigate();
  const [refused, setRefused] = useState("");
  const begun = useRef(false);
  useEffect(() => {
    if (begun.current) return;
    begun.current = true;
    const make = { kind: "quick" as const, title: "", circuit_id: null };
    const ids = newIds();
    const here = async () => (await import("../../job/begin.ts")).beginHere(make, me, ids);
    take(client.POST("/api/jobs", { body: { ...ids, ...make } }))
      .catch((error: unknown) => (error instanceof NoAnswer ? here() : Promise.reject(error)))
      .then(
        ({ code }) => navigate(`/job/${code}`, { replace: true }),
        (error: unknown) => setRefused(saidOf(error)),
      );
  }, [me, navigate]);
  return (
    <Frame crumb="Quick total">
      <main className="bg-sheet p-5">{refused ? <p className="note stop">{refused}</p> : <Waiting rows={4} />}</main>
    </Frame>
  );
}

/** From the home screen straight to the job touched last. */
export function StraightOn() {
  const { data, error } = useQuery(jobsQuery({}));
  if (error || data?.data.jobs.length === 0) return <Navigate to="/" replace />;
  const code = data?.data.jobs[0]?.code;
  return code ? <Navigate to={`/job/${code}`} replace /> : <Waiting rows={4} />;
}
