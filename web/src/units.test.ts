import { describe, expect, it } from "vitest";
import { volume, length, squares, typedLength, figure, seconds, size, uses, weight } from "./units";

describe("writing measures", () => {
  it("groups millimetres by thousands", () => {
    expect(length(4800, "metric")).toBe("4\u2009800");
    expect(length(65.4, "metric")).toBe("65");
  });
  it("writes feet and inches to the sixteenth", () => {
    expect(length(1200.15, "imperial")).toBe(`3' 11 1\u20444"`);
    expect(typedLength(1200.15, "imperial")).toBe(`3' 11 1/4"`);
    expect(typedLength(4800, "metric")).toBe("4800");
    expect(length(609.6, "imperial")).toBe(`2'`);
    expect(length(304.7, "imperial")).toBe(`1'`);
    expect(length(0, "imperial")).toBe(`0"`);
    expect(length(-12.7, "imperial")).toBe(`-1\u20442"`);
  });
  it("names the unit of a size once", () => {
    expect(size([65, 360, 140], "metric")).toBe("65 × 360 × 140 mm");
    expect(size([25.4, 50.8], "imperial")).toBe(`1" × 2"`);
  });
  it("writes times as people say them", () => {
    expect(seconds(2.14)).toBe("2.1 s");
    expect(seconds(99)).toBe("99 s");
    expect(seconds(245)).toBe("4 min 05 s");
    expect(seconds(3600 * 4)).toBe("4 h 00 min");
  });
  it("writes weights and frequencies", () => {
    expect(weight(0.35, "metric")).toBe("350 g");
    expect(weight(2.3, "metric")).toBe("2.3 kg");
    expect(weight(1, "imperial")).toBe("2.2 lb");
    expect(uses(3)).toBe("3 × a week");
    expect(uses(0.25)).toBe("1.1 × a month");
    expect(uses(0)).toBe("never");
  });
});

describe("areas and volumes", () => {
  it("are written in the units of the shop alone", () => {
    expect(squares(33.58, "metric")).toBe("33.6 m²");
    expect(squares(1.5, "imperial")).toBe("16 sq ft");
    expect(volume(92.35, "metric")).toBe("92.4 m³");
    expect(volume(92.35, "imperial")).toBe("3\u2009261 cu ft");
  });
  it("have no zero below nothing", () => {
    expect(figure(-0.04, 1, 1)).toBe("0.0");
    expect(figure(-0.06, 1)).toBe("-0.1");
  });
});
