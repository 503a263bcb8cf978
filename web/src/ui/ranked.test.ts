import { describe, expect, it } from "vitest";
import { ranked } from "./ranked";

const named = (...names: string[]) => names.map((name) => ({ id: name, name }));
const FOODS = named(
  "Almond butter",
  "Butter, salted",
  "Butterscotch",
  "Cocoa butter",
  "Cocoa mass",
  "Milk chocolate (cocoa mass)",
);
const names = (query: string, chosen: string | null = null) =>
  ranked(FOODS, query, chosen).map((option) => option.name);

describe("options by what is typed", () => {
  it("put the name that begins so before one that only holds it", () => {
    expect(names("butter")).toEqual(["Butter, salted", "Butterscotch", "Almond butter", "Cocoa butter"]);
    expect(names("cocoa m")[0]).toBe("Cocoa mass");
    expect(names("cocoa mass")).toEqual(["Cocoa mass", "Milk chocolate (cocoa mass)"]);
  });
  it("begin with the chosen one while nothing is typed, so that taking it changes nothing", () => {
    expect(names("", "Cocoa mass")[0]).toBe("Cocoa mass");
    expect(names(" ")).toHaveLength(FOODS.length);
  });
  it("need every word, in any order", () => {
    expect(names("mass milk")).toEqual(["Milk chocolate (cocoa mass)"]);
    expect(names("stardust")).toEqual([]);
  });
  it("are found by what else they are called: the very word first, else after names that fit as well", () => {
    const families = [
      { id: "a", name: "Moulded shell", also: ["cup", "praline"] },
      { id: "b", name: "Cup cake crumb" },
    ];
    expect(ranked(families, "cup", null).map((one) => one.id)).toEqual(["a", "b"]);
    expect(ranked(families, "cu", null).map((one) => one.id)).toEqual(["b", "a"]);
    expect(ranked(families, "praline", null).map((one) => one.id)).toEqual(["a"]);
  });
});
