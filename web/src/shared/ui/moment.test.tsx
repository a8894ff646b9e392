import { useState } from "react";
import { fireEvent, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { beforeEach, describe, expect, it } from "vitest";
import { show } from "@/shared/testing/served";
import { MomentField } from "./MomentField";

beforeEach(() => localStorage.clear());

function Field({ edge, start }: { edge: "first" | "end"; start: string }) {
  const [value, setValue] = useState(start);
  return (
    <>
      <MomentField label="Until" edge={edge} value={value} onChange={setValue} />
      <output aria-label="instant">{value}</output>
    </>
  );
}

const instant = () => screen.getByLabelText("instant").textContent;
const field = () => screen.getByLabelText<HTMLInputElement>("Until");

function type(text: string) {
  fireEvent.mouseDown(field());
  fireEvent.change(field(), { target: { value: text } });
  fireEvent.keyDown(field(), { key: "Enter", code: "Enter", keyCode: 13 });
}

describe("a moment", () => {
  it("is a whole day, to the end of it, where no time is given", () => {
    show(<Field edge="end" start="2026-12-01T00:00:00Z" />);
    expect(field().value).toBe("30 Nov 2026");
    type("2027-01-31");
    expect(instant()).toBe("2027-02-01T00:00:00Z");
  });

  it("gets a time of day and loses it again", async () => {
    show(<Field edge="first" start="2026-12-01T00:00:00Z" />);
    await userEvent.click(screen.getByLabelText("Until: at a time"));
    expect(instant()).toBe("2026-12-01T08:00:00Z");
    expect(field().value).toBe("1 Dec 2026 08:00");
    await userEvent.click(screen.getByLabelText("Until: at a time"));
    expect(instant()).toBe("2026-12-01T00:00:00Z");
  });

  it("keeps its day where another zone is chosen, and the zone for the next time", async () => {
    show(<Field edge="end" start="2026-12-01T00:00:00Z" />);
    await userEvent.type(screen.getByLabelText("Until: zone"), "Asia/Tokyo");
    await userEvent.click(await screen.findByTitle("Asia/Tokyo"));
    expect(field().value).toBe("30 Nov 2026");
    expect(instant()).toBe("2026-11-30T15:00:00Z");
    expect(localStorage.getItem("mandala.zone")).toBe("Asia/Tokyo");
  });

  it("shows the time of an instant that is no edge of a day", () => {
    show(<Field edge="end" start="2026-12-01T17:30:00Z" />);
    expect(field().value).toBe("1 Dec 2026 17:30");
  });
});
