import { useState } from "react";
import { useNavigate } from "react-router";
import { usePeopleChoices } from "../features/people/queries";

/** Finds people by name; Enter or a click asks about them. */
export function Search() {
  const [text, setText] = useState("");
  const [at, setAt] = useState(0);
  const [open, setOpen] = useState(false);
  const navigate = useNavigate();
  const found = usePeopleChoices(text, open && text.trim() !== "");
  const people = text.trim() === "" ? [] : (found.data ?? []);
  function go(key: string) {
    setOpen(false);
    setText("");
    void navigate(`/ask?who=${encodeURIComponent(key)}`);
  }
  return (
    <div className="search" onBlur={() => setTimeout(() => setOpen(false), 150)}>
      <input
        id="search"
        role="combobox"
        aria-label="Find people"
        aria-expanded={open && people.length > 0}
        aria-controls="search-found"
        placeholder="Find people"
        value={text}
        onFocus={() => setOpen(true)}
        onChange={(event) => {
          setText(event.target.value);
          setAt(0);
          setOpen(true);
        }}
        onKeyDown={(event) => {
          if (event.key === "ArrowDown") setAt(Math.min(at + 1, people.length - 1));
          if (event.key === "ArrowUp") setAt(Math.max(at - 1, 0));
          if (event.key === "Escape") {
            setOpen(false);
            event.currentTarget.blur();
          }
          const chosen = people[at];
          if (event.key === "Enter" && chosen) go(chosen.key);
        }}
      />
      <kbd>/</kbd>
      {open && text.trim() !== "" && (
        <ul id="search-found" role="listbox" aria-label="People found">
          {people.map((person, i) => (
            <li
              key={person.key}
              role="option"
              aria-selected={i === at}
              className={i === at ? "active" : undefined}
              onMouseDown={() => go(person.key)}
            >
              {person.name}{" "}
              <small>{[person.title, person.accountName].filter(Boolean).join(", ")}</small>
            </li>
          ))}
          {people.length === 0 && (
            <li className="choose-empty">{found.isFetching ? "Fetching …" : "Nobody fits."}</li>
          )}
        </ul>
      )}
    </div>
  );
}
