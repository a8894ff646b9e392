import { readFileSync } from "node:fs";
import { describe, expect, it } from "vitest";
import { SPECS, type FieldSpec } from "./declaration";
import { faultsIn, formOf, specOf, thingOf } from "./model";

describe("a form of a thing", () => {
  it("needs an end of a guest who is not to stay without one", () => {
    const guest = { principal: "ada", account: "q", sponsor: "ilse" };
    expect(faultsIn(specOf("guests"), guest)).toHaveProperty("until");
    expect(faultsIn(specOf("guests"), { ...guest, endless: true })).toEqual({});
    expect(formOf(specOf("guests"), guest)["endless"]).toBe(true);
    expect(thingOf(specOf("guests"), { ...guest, endless: true })).toEqual(guest);
  });

  it("names each required field that is empty", () => {
    expect(faultsIn(specOf("bridges"), { account: "dunlow" })).toEqual({
      group: "Enter “Group”.",
      gives: "Enter “Grants”.",
      scope: "Enter “Where”.",
    });
    expect(faultsIn(specOf("patterns"), { name: "Guard" })).toEqual({});
  });

  it("takes an exclusion with one side for unfinished", () => {
    const one = { name: "Two pairs of eyes", where: "account", sides: [["loan.draft"]] };
    expect(faultsIn(specOf("exclusions"), one)["sides"]).toContain("two or more sides");
    const two = { ...one, sides: [["loan.draft"], ["loan.approve"]] };
    expect(faultsIn(specOf("exclusions"), two)).toEqual({});
  });

  it("takes no window that ends before it starts", () => {
    const guest = { principal: "noor", account: "q", sponsor: "ilse", endless: true };
    const window = { from: "2027-02-01T00:00:00Z", until: "2027-01-01T00:00:00Z" };
    expect(faultsIn(specOf("guests"), { ...guest, ...window })["until"]).toContain("later day");
    expect(faultsIn(specOf("guests"), { ...guest, from: window.from })).toEqual({});
  });

  it("leaves out what is empty, and reads back what it wrote", () => {
    const form = { name: "Seal", delegable: "no", implies: [], description: "", sealed: false };
    expect(thingOf(specOf("permissions"), form)).toEqual({ name: "Seal", delegable: false });
    expect(formOf(specOf("permissions"), thingOf(specOf("permissions"), form))).toEqual({
      name: "Seal",
      delegable: "no",
    });
  });

  it("has no form for an unknown kind", () => {
    expect(() => specOf("ghosts")).toThrow("No form for ghosts");
  });
});

interface Schema {
  $ref?: string;
  type?: string;
  enum?: string[];
  items?: Schema;
  properties?: Record<string, Schema>;
  required?: string[];
  anyOf?: Schema[];
  oneOf?: Schema[];
}

/** The types of value that a declared field writes, as the schema of documents calls them. */
function typesOf({ shape }: FieldSpec): string[] {
  if (typeof shape === "object") {
    return "choice" in shape ? ["enum", "boolean"] : "one" in shape ? ["reference"] : ["array"];
  }
  const types: Record<string, string[]> = {
    text: ["string"],
    number: ["integer"],
    flag: ["boolean"],
    date: ["instant"],
    scope: ["scope"],
    gives: ["gives"],
    limit: ["array", "enum", "limit"],
    subjects: ["array"],
    sides: ["array"],
    exempt: ["array"],
    reach: ["array"],
    attributes: ["object"],
  };
  return types[shape] ?? [];
}

function namesOf(it: Schema): string[] {
  const own = it.enum ? ["enum"] : it.$ref ? [it.$ref.replace("#/$defs/", "")] : [it.type ?? ""];
  return [...own, ...[...(it.anyOf ?? []), ...(it.oneOf ?? [])].flatMap(namesOf)];
}

describe("the declaration of forms", () => {
  const schema = JSON.parse(
    readFileSync(
      "../document/src/main/resources/mandala/document/mandala-model-1.schema.json",
      "utf8",
    ),
  ) as Schema;
  const fields = SPECS.flatMap((spec) =>
    spec.fields
      .filter((it) => !it.derived)
      .map((field) => [`${spec.kind}.${field.field}`, spec.kind, field] as const),
  );

  it.each(fields)("%s is in the schema of documents", (_, kind, field) => {
    const item = schema.properties?.[kind]?.items;
    const published = item?.properties?.[field.field];
    expect(published, `${kind} has no ${field.field}`).toBeDefined();
    const types = typesOf(field);
    expect(namesOf(published ?? {}).some((it) => types.includes(it))).toBe(true);
    if (typeof field.shape === "object" && "choice" in field.shape && published?.enum) {
      expect(field.shape.choice.toSorted()).toEqual(published.enum.toSorted());
    }
  });

  it.each(SPECS.map((it) => [it.kind, it] as const))(
    "%s asks for whatever the schema requires",
    (kind, spec) => {
      const required = schema.properties?.[kind]?.items?.required ?? [];
      const asked = spec.fields.filter((it) => it.required).map((it) => it.field);
      const made = ["key"]; // the server makes keys
      expect(required.filter((it) => !asked.includes(it) && !made.includes(it))).toEqual([]);
    },
  );
});
