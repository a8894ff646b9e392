import { createContext, use, useEffect, useMemo, useState, type ReactNode } from "react";
import { App as AntApp, ConfigProvider } from "antd";
import { antdTheme, variables, type Mode } from "./theme";

type Choice = Mode | "system";

interface LookState {
  mode: Mode;
  choice: Choice;
  choose: (choice: Choice) => void;
}

const LookContext = createContext<LookState>({
  mode: "light",
  choice: "system",
  choose: () => undefined,
});

function systemMode(): Mode {
  return window.matchMedia("(prefers-color-scheme: dark)").matches ? "dark" : "light";
}

function kept(): Choice {
  const value = localStorage.getItem("mandala.look");
  return value === "light" || value === "dark" ? value : "system";
}

/** Light or dark, by the person's choice or the system's. */
export function LookProvider({ children }: { children: ReactNode }) {
  const [choice, setChoice] = useState<Choice>(kept);
  const [system, setSystem] = useState<Mode>(systemMode);
  const mode = choice === "system" ? system : choice;

  useEffect(() => {
    const query = window.matchMedia("(prefers-color-scheme: dark)");
    const listen = () => setSystem(systemMode());
    query.addEventListener("change", listen);
    return () => query.removeEventListener("change", listen);
  }, []);

  useEffect(() => {
    for (const [name, value] of Object.entries(variables(mode))) {
      document.documentElement.style.setProperty(name, value);
    }
    document.documentElement.dataset["mode"] = mode;
  }, [mode]);

  const state = useMemo<LookState>(
    () => ({
      mode,
      choice,
      choose: (next) => {
        localStorage.setItem("mandala.look", next);
        setChoice(next);
      },
    }),
    [mode, choice],
  );
  return (
    <LookContext value={state}>
      <ConfigProvider theme={antdTheme(mode)}>
        <AntApp>{children}</AntApp>
      </ConfigProvider>
    </LookContext>
  );
}

export function useLook(): LookState {
  return use(LookContext);
}
