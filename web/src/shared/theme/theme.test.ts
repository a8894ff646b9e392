import { describe, expect, it } from "vitest";
import { antdTheme, PALETTES, variables, type Mode } from "./theme";

/** Relative luminance (WCAG 2.2). */
function luminance(colour: string): number {
  const [r = 0, g = 0, b = 0] = [1, 3, 5].map((at) => {
    const channel = parseInt(colour.slice(at, at + 2), 16) / 255;
    return channel <= 0.04045 ? channel / 12.92 : ((channel + 0.055) / 1.055) ** 2.4;
  });
  return 0.2126 * r + 0.7152 * g + 0.0722 * b;
}

function contrast(a: string, b: string): number {
  const [light = 0, dark = 0] = [luminance(a), luminance(b)].sort((x, y) => y - x);
  return (light + 0.05) / (dark + 0.05);
}

describe.each(["light", "dark"] as Mode[])("the %s palette", (mode) => {
  const it_ = PALETTES[mode];
  const grounds = [it_.paper, it_.panel, it_.classes.view[0]];

  it.each(["ink", "second", "third", "error"] as const)("has %s text at 4.5:1", (text) => {
    for (const ground of grounds) expect(contrast(it_[text], ground)).toBeGreaterThanOrEqual(4.5);
  });

  it("has edges of controls, focus and marks at 3:1", () => {
    for (const ground of [it_.paper, it_.panel]) {
      expect(contrast(it_.edge, ground)).toBeGreaterThanOrEqual(3);
      expect(contrast(it_.focus, ground)).toBeGreaterThanOrEqual(3);
    }
    expect(contrast(it_.onPrimary, it_.primary)).toBeGreaterThanOrEqual(4.5);
  });

  it("tells risks apart by darkness within each class", () => {
    for (const colours of Object.values(it_.classes)) {
      const steps = colours.slice(1).map(luminance);
      const sorted = steps.toSorted((a, b) => (mode === "light" ? b - a : a - b));
      expect(steps).toEqual(sorted);
    }
  });

  it("gives every colour as a variable", () => {
    expect(variables(mode)).toMatchObject({
      "--paper": it_.paper,
      "--on-primary": it_.onPrimary,
      "--view-track": it_.classes.view[0],
      "--administer-critical": it_.classes.administer[4],
    });
  });

  it("leaves no stock blue in the tokens", () => {
    const tokens = antdTheme(mode, "compact", true).token ?? {};
    for (const name of ["colorPrimary", "colorInfo", "colorLink"] as const) {
      const colour = tokens[name] ?? "";
      const [r = 0, , b = 0] = [1, 3, 5].map((at) => parseInt(colour.slice(at, at + 2), 16));
      expect(b - r, `${name} ${colour}`).toBeLessThan(100);
    }
  });
});

it("rows are 32 px in compact and 36 px in comfortable", () => {
  const padding = (density: "compact" | "comfortable") =>
    Number(antdTheme("light", density, true).components?.Table?.cellPaddingBlockSM);
  expect(21 + 2 * padding("compact")).toBe(32);
  expect(21 + 2 * padding("comfortable")).toBe(36);
});

it("motion stops where the system asks for less of it", () => {
  expect(antdTheme("light", "compact", false).token?.motion).toBe(false);
});
