import { screen, waitFor } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { afterEach, describe, expect, it } from "vitest";
import { openDraft, serve, show } from "@/shared/testing/served";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { DestinationDialog } from "./DestinationDialog";
import { nameOf, stateOf } from "./names";
import { useEdit, useOpenDraft } from "./queries";

afterEach(() => sessionStorage.clear());

const back = {
  ...openDraft(2).draft,
  id: "back",
  name: "Take back revision 12",
  takesBack: 12,
  foreign: false,
};

/** A button that adds a change to the active draft. */
function Editor() {
  const open = useOpenDraft();
  const edit = useEdit();
  return (
    <>
      <button
        disabled={!open.data}
        onClick={() => edit.mutate([{ kind: "groups", key: "crew", set: {} }])}
      >
        Change
      </button>
      {edit.isSuccess && <p>Changed</p>}
      {edit.isError && <ProblemAlert problem={edit.error} />}
      <DestinationDialog />
    </>
  );
}

function page(draft: object) {
  const calls = serve({
    "/api/drafts/open/summary": { ...openDraft(2), impact: "1 person", draft },
    "/api/drafts": {
      mine: [draft, { ...back, id: "loans", name: "Loans", state: "aside", takesBack: undefined }],
      waiting: [],
      judging: 0,
      discarded: [],
    },
    "POST /api/drafts/open/edits": openDraft(1),
  });
  show(<Editor />);
  return () => calls.filter((it) => it.method === "POST").map((it) => it.body);
}

const edits = [{ kind: "groups", key: "crew", set: {} }];

async function change() {
  const button = screen.getByRole("button", { name: "Change" });
  await waitFor(() => expect(button).toHaveProperty("disabled", false));
  await userEvent.click(button);
}

describe("where a change belongs", () => {
  it("is the active draft, where that is one's own", async () => {
    const sent = page({ ...back, takesBack: undefined });
    await change();
    expect(await screen.findByText("Changed")).toBeDefined();
    expect(sent()).toEqual([{ edits }]);
  });

  it("is asked where the active draft takes a revision back, and once only", async () => {
    const sent = page(back);
    await change();
    expect(await screen.findByText(/takes back revision 12/)).toBeDefined();
    await userEvent.click(screen.getByRole("radio", { name: /^Take back revision 12/ }));
    await userEvent.click(screen.getByRole("button", { name: "Add to draft" }));
    await waitFor(() => expect(sent()).toEqual([{ edits, into: "back" }]));
    await change();
    await waitFor(() => expect(sent()).toHaveLength(2));
    expect(sent()[1]).toEqual({ edits });
  });

  it("can be another draft of one's own", async () => {
    const sent = page({ ...back, takesBack: undefined, foreign: true });
    await change();
    expect(await screen.findByText(/Somebody else wrote in your active draft/)).toBeDefined();
    await userEvent.click(await screen.findByRole("radio", { name: /^Loans/ }));
    await userEvent.click(screen.getByRole("button", { name: "Add to draft" }));
    await waitFor(() => expect(sent()).toEqual([{ edits, into: "loans" }]));
  });

  it("is a new draft where nothing else is chosen", async () => {
    const sent = page(back);
    await change();
    await userEvent.click(await screen.findByRole("button", { name: "Add to draft" }));
    await waitFor(() => expect(sent()).toEqual([{ edits, into: "new" }]));
  });

  it("can be left open, and then nothing is sent and nothing failed", async () => {
    const sent = page(back);
    await change();
    await userEvent.click(await screen.findByRole("button", { name: "Cancel" }));
    await waitFor(() => expect(screen.queryByText(/takes back revision/)).toBeNull());
    expect(sent()).toEqual([]);
    expect(screen.queryByRole("alert")).toBeNull();
  });
});

describe("a draft in words", () => {
  it("is named by what it does until it has a name", () => {
    expect(nameOf({ name: "Loans", proposedName: "Ada joins Guards" })).toBe("Loans");
    expect(nameOf({ proposedName: "Ada joins Guards" })).toBe("Ada joins Guards");
    expect(nameOf({ proposedName: "" })).toBe("New draft");
  });

  it("is active, open or over", () => {
    expect(stateOf({ state: "open" })).toBe("active");
    expect(stateOf({ state: "aside" })).toBe("open");
    expect(stateOf({ state: "applied", appliedAs: 9 })).toBe("applied as revision 9");
  });
});
