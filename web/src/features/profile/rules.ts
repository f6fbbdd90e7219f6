import forms from "../../api/forms.gen.json";
import type { System } from "../../api/types.ts";
import { unitFor } from "../../format/quantity.ts";

export type Rule = { text: string; quantity: string; default: number; low: number; high: number; source: string };

export type Choice = { text: string; options: Record<string, string>; default: string; reason: string };

export const RULES = forms.rules as Record<string, Rule>;

export const CHOICES = forms.choices as Record<string, Choice>;

export const GROUPS = forms.rule_groups as { title: string; rules: string[] }[];

/** A bare number is in the unit on the page. */
export function withUnit(text: string, quantity: string, system: System): string {
  return /^\s*[-+−]?[\d.]+\s*$/.test(text) ? `${text.trim()} ${unitFor(quantity, system)}`.trim() : text;
}
