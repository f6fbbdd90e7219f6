import { useQueryClient } from "@tanstack/react-query";
import { type ReactNode, useState } from "react";
import { useNavigate } from "react-router";
import { client, newKey, Refused, take } from "../../api/client.ts";

const NEEDS_SIGNAL = "No answer from the server: a job from a file needs signal.";

/** Takes over a job from a file, wherever it came from; what came of it stands where `said` is put. */
export function useOpenFile(): { openFile: (file: File, again?: boolean) => Promise<void>; said: ReactNode } {
  const navigate = useNavigate();
  const queries = useQueryClient();
  const [refused, setRefused] = useState("");
  const [before, setBefore] = useState<{ file: File; words: string; code: string } | null>(null);
  const openFile = async (file: File, again = false) => {
    setRefused("");
    setBefore(null);
    try {
      const document = await file.text();
      const state = await take(client.POST("/api/jobs/import", { body: { key: newKey(), document, again } }));
      await queries.invalidateQueries({ queryKey: ["jobs"] });
      navigate(`/job/${state.code}`);
    } catch (error) {
      if (error instanceof Refused && error.problem.code === "taken_before")
        setBefore({ file, words: error.message, code: String(error.problem.params?.job ?? "") });
      else setRefused(error instanceof Refused ? `${file.name} was not taken. ${error.message}` : NEEDS_SIGNAL);
    }
  };
  const said = before ? (
    <p className="note w-full" role="alert">
      {before.words}
      <span className="mt-2 flex flex-wrap gap-3">
        <button type="button" className="btn" onClick={() => navigate(`/job/${before.code}`)}>
          Open the one that is here
        </button>
        <button type="button" className="btn quiet" onClick={() => void openFile(before.file, true)}>
          Take it over again
        </button>
      </span>
    </p>
  ) : refused ? (
    <p className="note stop w-full" role="alert">
      {refused}
    </p>
  ) : null;
  return { openFile, said };
}
