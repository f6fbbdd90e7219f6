import { useEffect, useRef, useState } from "react";
import { Frame } from "../../app/Frame.tsx";
import { useSession } from "../../app/session.ts";
import { useOpenFile } from "./useOpenFile.tsx";

type Launch = { files: { getFile: () => Promise<File> }[] };
type LaunchQueue = { setConsumer: (take: (launch: Launch) => void) => void };

/** Where a job file arrives that was shared to Yoshi or opened with it; and where one is chosen by hand. */
export default function OpenPage() {
  const { me } = useSession();
  const { openFile, said } = useOpenFile();
  const [name, setName] = useState("");
  const begun = useRef(false);
  useEffect(() => {
    if (begun.current) return; // once, however often it is drawn
    begun.current = true;
    const go = (file: File) => {
      setName(file.name);
      void openFile(file);
    };
    void shared().then((file) => file && go(file));
    const queue = (window as { launchQueue?: LaunchQueue }).launchQueue;
    queue?.setConsumer(({ files }) => void files[0]?.getFile().then(go));
  }, [openFile]);
  return (
    <Frame crumb="Open a job file" place={me.shop}>
      <main className="min-h-0 flex-1 overflow-y-auto bg-sheet px-5 py-5 md:px-7">
        <h1>Open a job file</h1>
        <p className="text-soft">A file another Yoshi wrote, with the job, its record and its figures.</p>
        {name && <p className="mt-3 font-semibold">{name}</p>}
        <div className="mt-3">{said}</div>
        <label className="btn mt-4 inline-flex cursor-pointer">
          Choose a file
          <input
            type="file"
            className="sr-only"
            accept=".json,application/json"
            onChange={(event) => {
              const file = event.target.files?.[0];
              event.target.value = "";
              if (!file) return;
              setName(file.name);
              void openFile(file);
            }}
          />
        </label>
      </main>
    </Frame>
  );
}

/** What was shared to Yoshi a moment ago, from where the service worker laid it; it is taken from there. */
async function shared(): Promise<File | null> {
  if (typeof caches === "undefined") return null;
  const place = await caches.open("yoshi-shared");
  const found = await place.match("/open/file");
  if (!found) return null;
  await place.delete("/open/file");
  return new File([await found.blob()], decodeURIComponent(found.headers.get("X-Name") ?? "a file"));
}
