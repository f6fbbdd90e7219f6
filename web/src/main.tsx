import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import "./index.css";
import { App } from "./app/App.tsx";
import { holdSteady } from "./app/steadyPlace.ts";
import { keepPresses } from "./app/steadyTaps.ts";

if ("serviceWorker" in navigator && import.meta.env.PROD) {
  navigator.serviceWorker.register("/sw.js").catch(() => undefined);
}

const root = document.getElementById("root");
if (!root) throw new Error("index.html has no #root");
keepPresses(document);
holdSteady(document.body);
createRoot(root).render(
  <StrictMode>
    <App />
  </StrictMode>,
);
