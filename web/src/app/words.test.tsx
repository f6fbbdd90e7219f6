import { cleanup, fireEvent, render, screen, within } from "@testing-library/react";
import { afterEach, expect, it } from "vitest";
import { wordsIn } from "../parts/glossary.ts";
import { Words } from "./Words.tsx";

afterEach(cleanup);

it("finds the words of a text whole, by any of their names", () => {
  const names = (text: string) => wordsIn(text).map((term) => term.word);
  expect(names("Subcooling target at 2100 m")).toEqual(["subcooling", "target"]);
  expect(names("an expansion valve")).toEqual(["TXV"]);
  expect(names("the netting over the dewlap")).toEqual([]);
  expect(names("500 microns")).toEqual(["micron"]);
});

it("shows those of the page first, and finds any other by a part of it", () => {
  render(
    <>
      <main>Read the tare first. What stays is the heel.</main>
      <Words />
    </>,
  );
  fireEvent.click(screen.getByRole("button", { name: "What the words mean" }));
  const here = within(screen.getByRole("region", { name: "On this page" }));
  expect(here.getAllByRole("term").map((term) => term.textContent)).toEqual(["heel", "tare"]);
  fireEvent.change(screen.getByLabelText("find"), { target: { value: "subcool" } });
  expect(screen.getByText(/How far the liquid line is colder than bubble/)).toBeTruthy();
  fireEvent.change(screen.getByLabelText("find"), { target: { value: "sofa" } });
  expect(screen.getByText("No word here is like that.")).toBeTruthy();
});
