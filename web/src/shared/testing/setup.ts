import { cleanup, configure } from "@testing-library/react";
import { afterAll, afterEach, beforeAll, vi } from "vitest";
import { server } from "./server";

// How fast a test is says nothing on a shared machine.
configure({ asyncUtilTimeout: 15_000 });

/** The width of the window for media queries, in pixels. */
let width = 1280;

/** Sets the width that media queries see. */
export function setWidth(pixels: number) {
  width = pixels;
}

beforeAll(() => server.listen({ onUnhandledRequest: "error" }));
afterEach(() => {
  cleanup();
  server.resetHandlers();
  localStorage.clear();
  sessionStorage.clear();
  width = 1280;
});
afterAll(() => server.close());

function fits(query: string): boolean {
  const least = /min-width:\s*([\d.]+)px/.exec(query)?.[1];
  const most = /max-width:\s*([\d.]+)px/.exec(query)?.[1];
  if (!least && !most) return false;
  return (!least || width >= Number(least)) && (!most || width <= Number(most));
}

window.matchMedia = vi.fn().mockImplementation((query: string) => ({
  matches: fits(query),
  media: query,
  addEventListener: vi.fn(),
  removeEventListener: vi.fn(),
  addListener: vi.fn(),
  removeListener: vi.fn(),
}));
window.ResizeObserver = class {
  observe() {}
  unobserve() {}
  disconnect() {}
};
// jsdom lays nothing out, and so scrolls nothing.
Element.prototype.scrollTo = () => undefined;
Element.prototype.scrollIntoView = () => undefined;

// jsdom knows no pseudo-elements, which the component library asks about.
const computed = window.getComputedStyle.bind(window);
window.getComputedStyle = (element) => computed(element);
