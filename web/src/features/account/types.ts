import type { components } from "../../api/schema.gen.ts";

export type Account = components["schemas"]["OwnAccount"];
