import { screen, waitFor } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { expect, it } from "vitest";
import { nameOf } from "@/shared/lib/impersonation";
import { serve, show } from "@/shared/testing/served";
import { SavedViews } from "./SavedViews";

it("opens, saves and removes views of the page", async () => {
  const views = [
    { page: "/people", name: "Guests", query: "state=invited" },
    { page: "/trail", name: "Elsewhere", query: "" },
  ];
  const calls = serve({
    "/api/saved-views": views,
    "PUT /api/saved-views": views,
    "DELETE /api/saved-views": [],
  });
  show(<SavedViews />, "/people?in=q&people.sort=-name");
  await userEvent.click(screen.getByRole("button", { name: "Views" }));
  expect((await screen.findByRole("link", { name: "Guests" })).getAttribute("href")).toBe(
    "/people?state=invited",
  );
  expect(screen.queryByText("Elsewhere")).toBeNull();
  await userEvent.click(screen.getByRole("button", { name: "Remove view Guests" }));
  expect(await screen.findByText("No saved views yet.")).toBeDefined();
  await userEvent.click(screen.getByRole("button", { name: "Save this view" }));
  await userEvent.click(await screen.findByRole("button", { name: "Save view" }));
  expect(await screen.findByText("Enter a name.")).toBeDefined();
  await userEvent.type(screen.getByLabelText("Name"), "Mine{Enter}");
  await waitFor(() =>
    expect(calls.find((it) => it.method === "PUT")?.body).toEqual({
      page: "/people",
      name: "Mine",
      query: "in=q&people.sort=-name",
    }),
  );
});

it("keeps and removes nothing in an impersonated view", async () => {
  window.name = nameOf({ key: "odile", factor: false });
  try {
    serve({ "/api/saved-views": [{ page: "/people", name: "Guests", query: "state=invited" }] });
    show(<SavedViews />, "/people");
    await userEvent.click(screen.getByRole("button", { name: "Views" }));
    expect(await screen.findByRole("link", { name: "Guests" })).toBeDefined();
    expect(screen.queryByRole("button", { name: "Remove view Guests" })).toBeNull();
    expect(screen.queryByRole("button", { name: "Save this view" })).toBeNull();
    expect(screen.getByRole("button", { name: "Copy link" })).toBeDefined();
  } finally {
    window.name = "";
  }
});
