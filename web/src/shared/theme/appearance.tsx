import { createContext, use, useEffect, useMemo, useState, type ReactNode } from "react";
import { App as AntApp, ConfigProvider } from "antd";
import en from "antd/es/locale/en_GB";
import { antdTheme, variables, type Density, type Mode } from "./theme";

export type Scheme = Mode | "system";

interface Appearance {
  mode: Mode;
  scheme: Scheme;
  density: Density;
  setScheme: (scheme: Scheme) => void;
  setDensity: (density: Density) => void;
}

const AppearanceContext = createContext<Appearance>({
  mode: "light",
  scheme: "system",
  density: "compact",
  setScheme: () => undefined,
  setDensity: () => undefined,
});

const SCHEME = "mandala.scheme";
const DENSITY = "mandala.density";

function useMedia(condition: string): boolean {
  const [matches, setMatches] = useState(() => window.matchMedia(condition).matches);
  useEffect(() => {
    const query = window.matchMedia(condition);
    const listen = () => setMatches(query.matches);
    query.addEventListener("change", listen);
    return () => query.removeEventListener("change", listen);
  }, [condition]);
  return matches;
}

function storedScheme(): Scheme {
  const value = localStorage.getItem(SCHEME);
  return value === "light" || value === "dark" ? value : "system";
}

function storedDensity(): Density {
  return localStorage.getItem(DENSITY) === "comfortable" ? "comfortable" : "compact";
}

/** Colour scheme and density, each kept in this browser; motion follows the system's setting. */
export function AppearanceProvider({ children }: { children: ReactNode }) {
  const [scheme, setScheme] = useState<Scheme>(storedScheme);
  const [density, setDensity] = useState<Density>(storedDensity);
  const dark = useMedia("(prefers-color-scheme: dark)");
  const still = useMedia("(prefers-reduced-motion: reduce)");
  const mode = scheme === "system" ? (dark ? "dark" : "light") : scheme;

  useEffect(() => {
    for (const [name, value] of Object.entries(variables(mode))) {
      document.documentElement.style.setProperty(name, value);
    }
    document.documentElement.dataset["mode"] = mode;
  }, [mode]);

  const state = useMemo<Appearance>(
    () => ({
      mode,
      scheme,
      density,
      setScheme: (next) => {
        localStorage.setItem(SCHEME, next);
        setScheme(next);
      },
      setDensity: (next) => {
        localStorage.setItem(DENSITY, next);
        setDensity(next);
      },
    }),
    [mode, scheme, density],
  );
  const theme = useMemo(() => antdTheme(mode, density, !still), [mode, density, still]);
  return (
    <AppearanceContext value={state}>
      <ConfigProvider
        theme={theme}
        locale={en}
        componentSize="middle"
        button={{ autoInsertSpace: false }}
      >
        <AntApp component={false}>{children}</AntApp>
      </ConfigProvider>
    </AppearanceContext>
  );
}

export function useAppearance(): Appearance {
  return use(AppearanceContext);
}
