import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import "./index.css";
import { App } from "./app/App.tsx";
import { holdSteady } from "./app/steadyPlace.ts";
import { keepPresses } from "./app/steadyTaps.ts";

if ("serviceWorker" in navigator && import.meta.env.PROD) {
  navigator.serviceWorker.register("/sw.js").catch(() => undefined);
}

/** A part of the page that is not there any more belongs to an earlier version: the present one is loaded, once. */
const RENEWED = "yoshi:renewed";
window.addEventListener("vite:preloadError", (event) => {
  if (Date.now() - Number(sessionStorage.getItem(RENEWED) ?? 0) < 10_000) return;
  event.preventDefault();
  sessionStorage.setItem(RENEWED, String(Date.now()));
  window.location.reload();
});

const root = document.getElementById("root");
if (!root) throw new Error("index.html has no #root");
keepPresses(document);
holdSteady(document.body);
createRoot(root).render(
  <StrictMode>
    <App />
  </StrictMode>,
);
