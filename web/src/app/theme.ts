import { theme as antd, type ThemeConfig } from "antd";

/** The one place where the look is decided; everything else reads these through CSS variables. */
export type Mode = "light" | "dark";

export type AccessClass = "view" | "change" | "administer";
export type Risk = "low" | "moderate" | "high" | "critical";

interface Look {
  paper: string;
  panel: string;
  hairline: string;
  ink: string;
  second: string;
  third: string;
  accent: string;
  /** For each class: the empty track, then the four risks from low to critical. */
  classes: Record<AccessClass, [string, string, string, string, string]>;
}

export const LOOKS: Record<Mode, Look> = {
  light: {
    paper: "#F7F3EC",
    panel: "#FCFAF6",
    hairline: "#DED6C8",
    ink: "#26203A",
    second: "#5F5873",
    third: "#746C86",
    accent: "#C98A1B",
    classes: {
      view: ["#E6EFEE", "#9CC9CF", "#4F9CA8", "#1F6673", "#0E3F49"],
      change: ["#F5EBD5", "#E6C27A", "#C98A1B", "#8F5D08", "#5C3A00"],
      administer: ["#EFE4EF", "#C6A0C9", "#8F4F93", "#5A2160", "#34083A"],
    },
  },
  dark: {
    paper: "#1B1828",
    panel: "#221E31",
    hairline: "#39334C",
    ink: "#EFEAF6",
    second: "#B6AECB",
    third: "#9B92B2",
    accent: "#F0CB77",
    classes: {
      view: ["#243640", "#3F7E8C", "#62AEBB", "#9AD6DE", "#D3F1F5"],
      change: ["#352C23", "#94702B", "#CF9F3F", "#F0CB77", "#FBE9BF"],
      administer: ["#33233A", "#7D4A82", "#B078B4", "#DDB3DF", "#F5E0F6"],
    },
  },
};

const FAMILY = '"Commissioner Variable", system-ui, sans-serif';
export const RISKS: Risk[] = ["low", "moderate", "high", "critical"];
export const CLASSES: AccessClass[] = ["view", "change", "administer"];

/** The variables that stylesheets and figures use. */
export function variables(mode: Mode): Record<string, string> {
  const look = LOOKS[mode];
  const result: Record<string, string> = {
    "--paper": look.paper,
    "--panel": look.panel,
    "--hairline": look.hairline,
    "--ink": look.ink,
    "--second": look.second,
    "--third": look.third,
    "--accent": look.accent,
  };
  for (const accessClass of CLASSES) {
    look.classes[accessClass].forEach((colour, i) => {
      result[`--${accessClass}-${i === 0 ? "track" : (RISKS[i - 1] as Risk)}`] = colour;
    });
  }
  return result;
}

export function antdTheme(mode: Mode): ThemeConfig {
  const look = LOOKS[mode];
  return {
    algorithm: mode === "dark" ? antd.darkAlgorithm : antd.defaultAlgorithm,
    token: {
      fontFamily: FAMILY,
      fontSize: 13.5,
      colorPrimary: look.classes.view[3],
      colorText: look.ink,
      colorTextSecondary: look.second,
      colorTextTertiary: look.third,
      colorTextPlaceholder: look.third,
      colorBgBase: look.paper,
      colorBgContainer: look.panel,
      colorBgElevated: look.panel,
      colorBorder: look.hairline,
      colorBorderSecondary: look.hairline,
      borderRadius: 3,
      controlHeight: 32,
      boxShadowSecondary: "0 6px 24px rgb(38 32 58 / 14%)",
      motionDurationMid: "0.12s",
    },
    components: {
      Input: { activeShadow: "none" },
      Segmented: {
        trackBg: "transparent",
        itemColor: look.second,
        itemSelectedBg: look.panel,
        itemSelectedColor: look.ink,
        itemHoverBg: "transparent",
      },
      Button: { primaryShadow: "none", defaultShadow: "none", primaryColor: look.paper },
    },
  };
}
