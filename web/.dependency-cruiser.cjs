/** The floors of the interface; an arrow goes down only, and nowhere round. */
const FLOORS = ["app", "features", "fields", "parts", "job", "outbox", "format", "api", "engine", "device", "ui"];
/** What may be used although it lies above: the session and the theme are the whole page's. */
const SHARED = "^src/app/(session|theme|steadyTaps)\\.ts$";

const above = (floor) => FLOORS.slice(0, FLOORS.indexOf(floor)).join("|");

module.exports = {
  forbidden: [
    { name: "no-circle", severity: "error", from: {}, to: { circular: true } },
    ...FLOORS.slice(1).map((floor) => ({
      name: `${floor}-uses-only-what-lies-below`,
      severity: "error",
      from: { path: `^src/${floor}/`, pathNot: "\\.test\\." },
      to: { path: `^src/(${above(floor)})/`, pathNot: floor === "features" ? "^src/app/" : SHARED },
    })),
    {
      name: "a-step-does-not-reach-into-another",
      severity: "error",
      from: { path: "^src/features/steps/([^/]+)/", pathNot: "\\.test\\." },
      to: { path: "^src/features/steps/[^/]+/", pathNot: ["^src/features/steps/$1/", "^src/features/steps/[^/]+\\.tsx?$"] },
    },
    { name: "no-orphan", severity: "error", from: { orphan: true, pathNot: ["\\.d\\.ts$", "\\.gen\\."] }, to: {} },
  ],
  options: {
    tsConfig: { fileName: "tsconfig.json" },
    tsPreCompilationDeps: true,
    doNotFollow: { path: "node_modules" },
    enhancedResolveOptions: { extensions: [".ts", ".tsx", ".js", ".json"] },
  },
};
