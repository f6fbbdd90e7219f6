import { useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { useNavigate } from "react-router";
import { client, newKey, saidOf, take } from "../../api/client.ts";
import { practiceQuery } from "./queries.ts";

/** Take an exercise in from its file; what is wrong with it is said, and nothing is kept then. */
export function TakeIn() {
  const queries = useQueryClient();
  const navigate = useNavigate();
  const input = useRef<HTMLInputElement>(null);
  const [said, setSaid] = useState("");
  const read = async (file: File | undefined) => {
    if (!file) return;
    setSaid("");
    try {
      const row = await take(
        client.POST("/api/practice/exercises", { body: { key: newKey(), text: await file.text(), id: null } }),
      );
      await queries.invalidateQueries(practiceQuery);
      await navigate(`/practice?exercise=${row.own}`);
    } catch (error) {
      setSaid(saidOf(error));
    }
    if (input.current) input.current.value = "";
  };
  return (
    <>
      <label className="inline-flex min-h-[44px] cursor-pointer items-center text-copper underline">
        Take a file in
        <input
          ref={input}
          type="file"
          accept=".json,application/json"
          className="sr-only"
          onChange={(event) => void read(event.target.files?.[0])}
        />
      </label>
      {said && <span className="text-stop">{said}</span>}
    </>
  );
}
