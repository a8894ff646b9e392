import { Grid } from "antd";

/** Whether the window is too narrow for tables: below 576 px. */
export function useNarrow(): boolean {
  const screens = Grid.useBreakpoint();
  return screens.sm === false;
}
