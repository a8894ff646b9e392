import { theme as antd, type ThemeConfig } from "antd";

/** Light or dark. Every colour of the interface comes from this file. */
export type Mode = "light" | "dark";

/** Height of table rows: 32 px in compact, 36 px in comfortable. */
export type Density = "compact" | "comfortable";

export type AccessClass = "view" | "change" | "administer";
export type Risk = "low" | "moderate" | "high" | "critical";

interface Palette {
  paper: string;
  panel: string;
  hairline: string;
  /** Border of controls: at least 3:1 on paper (WCAG 2.2, 1.4.11). */
  edge: string;
  ink: string;
  second: string;
  third: string;
  /** Marks what is current. */
  accent: string;
  /** Outline of what has the focus: at least 3:1 on paper. */
  focus: string;
  /** Primary buttons and selected controls. */
  primary: string;
  onPrimary: string;
  error: string;
  /** For each class: the empty track, then the four risks from low to critical. */
  classes: Record<AccessClass, [string, string, string, string, string]>;
}

export const PALETTES: Record<Mode, Palette> = {
  light: {
    paper: "#F7F3EC",
    panel: "#FCFAF6",
    hairline: "#DED6C8",
    edge: "#8A8194",
    ink: "#26203A",
    second: "#5F5873",
    third: "#6B637C",
    accent: "#C98A1B",
    focus: "#A86C0C",
    primary: "#1F6673",
    onPrimary: "#FCFAF6",
    error: "#8E2B4F",
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
    edge: "#7D7595",
    ink: "#EFEAF6",
    second: "#B6AECB",
    third: "#A59CBB",
    accent: "#F0CB77",
    focus: "#F0CB77",
    primary: "#9AD6DE",
    onPrimary: "#1B1828",
    error: "#F0A3B9",
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

/** The CSS variables that stylesheets and figures use. */
export function variables(mode: Mode): Record<string, string> {
  const { classes, ...colours } = PALETTES[mode];
  const result: Record<string, string> = {};
  for (const [name, colour] of Object.entries(colours)) {
    result[`--${name.replace(/[A-Z]/g, (it) => `-${it.toLowerCase()}`)}`] = colour;
  }
  for (const accessClass of CLASSES) {
    const [track, ...risks] = classes[accessClass];
    result[`--${accessClass}-track`] = track;
    risks.forEach((colour, i) => (result[`--${accessClass}-${RISKS[i] ?? ""}`] = colour));
  }
  return result;
}

/** Ant Design's tokens and component tokens. */
export function antdTheme(mode: Mode, density: Density, motion: boolean): ThemeConfig {
  const it = PALETTES[mode];
  const row = density === "compact" ? 5.5 : 7.5; // 21 px of text and two of these: 32 or 36 px
  return {
    algorithm: mode === "dark" ? antd.darkAlgorithm : antd.defaultAlgorithm,
    cssVar: { key: "mandala" },
    token: {
      fontFamily: FAMILY,
      fontSize: 13.5,
      lineHeight: 1.45,
      colorPrimary: it.primary,
      colorInfo: it.primary,
      colorSuccess: it.primary,
      colorWarning: it.accent,
      colorError: it.error,
      colorLink: it.ink,
      colorLinkHover: it.second,
      colorLinkActive: it.second,
      colorTextBase: it.ink,
      colorText: it.ink,
      colorTextSecondary: it.second,
      colorTextTertiary: it.third,
      colorTextQuaternary: it.third,
      colorTextPlaceholder: it.third,
      colorTextDescription: it.second,
      colorTextDisabled: it.third,
      colorTextHeading: it.ink,
      colorTextLightSolid: it.onPrimary,
      colorIcon: it.third,
      colorIconHover: it.ink,
      colorBgBase: it.paper,
      colorBgContainer: it.panel,
      colorBgElevated: it.panel,
      colorBgLayout: it.paper,
      colorBgTextHover: it.classes.view[0],
      colorBorder: it.edge,
      colorBorderSecondary: it.hairline,
      colorSplit: it.hairline,
      controlItemBgHover: it.classes.view[0],
      controlItemBgActive: it.classes.view[0],
      controlItemBgActiveHover: it.classes.view[0],
      controlOutline: "transparent",
      controlHeight: 30,
      controlHeightSM: 24,
      borderRadius: 3,
      borderRadiusLG: 4,
      borderRadiusSM: 2,
      wireframe: false,
      boxShadow: "0 6px 24px rgb(38 32 58 / 16%)",
      boxShadowSecondary: "0 6px 24px rgb(38 32 58 / 16%)",
      motion,
      motionDurationMid: "0.12s",
      motionDurationSlow: "0.16s",
    },
    components: {
      Alert: { defaultPadding: "6px 12px", withDescriptionPadding: "8px 12px" },
      Breadcrumb: { itemColor: it.second, lastItemColor: it.second, separatorColor: it.third },
      Button: {
        primaryShadow: "none",
        defaultShadow: "none",
        dangerShadow: "none",
        primaryColor: it.onPrimary,
        defaultBg: "transparent",
        defaultHoverBg: it.classes.view[0],
        defaultHoverColor: it.ink,
        defaultHoverBorderColor: it.primary,
        textHoverBg: it.classes.view[0],
        linkHoverBg: "transparent",
      },
      Collapse: { headerPadding: "4px 0", contentPadding: "0 0 8px", headerBg: "transparent" },
      Descriptions: { itemPaddingBottom: 4, labelColor: it.second },
      Form: { itemMarginBottom: 14, labelColor: it.second, verticalLabelPadding: "0 0 3px" },
      Input: { activeShadow: "none", errorActiveShadow: "none" },
      Modal: { titleFontSize: 17 },
      Segmented: {
        trackBg: "transparent",
        itemColor: it.second,
        itemSelectedBg: it.classes.view[0],
        itemSelectedColor: it.ink,
        itemHoverBg: it.classes.view[0],
      },
      Select: { optionSelectedBg: it.classes.view[0], optionActiveBg: it.classes.view[0] },
      Skeleton: { gradientFromColor: it.classes.view[0], gradientToColor: it.hairline },
      Table: {
        cellPaddingBlockSM: row,
        cellPaddingInlineSM: 8,
        headerBg: "transparent",
        headerColor: it.second,
        headerSplitColor: "transparent",
        headerBorderRadius: 0,
        borderColor: it.hairline,
        rowHoverBg: it.panel,
        rowExpandedBg: it.panel,
        rowSelectedBg: it.classes.view[0],
        rowSelectedHoverBg: it.classes.view[0],
        headerSortActiveBg: "transparent",
        headerSortHoverBg: it.panel,
        bodySortBg: "transparent",
      },
      Tabs: {
        inkBarColor: it.accent,
        itemColor: it.second,
        itemSelectedColor: it.ink,
        itemHoverColor: it.ink,
        itemActiveColor: it.ink,
        horizontalItemGutter: 20,
        horizontalItemPadding: "4px 0 6px",
        horizontalMargin: "0 0 12px",
      },
      Tag: { defaultBg: "transparent", defaultColor: it.ink },
      Tooltip: { colorBgSpotlight: it.ink, colorTextLightSolid: it.paper },
      Tree: {
        nodeHoverBg: it.classes.view[0],
        nodeSelectedBg: it.classes.view[0],
        titleHeight: 26,
      },
    },
  };
}
