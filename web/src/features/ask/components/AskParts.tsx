import { NavLink } from "react-router";

/** The forms of question. */
export function AskParts() {
  return (
    <nav className="parts" aria-label="Questions">
      <NavLink to="/ask" end>
        What can they do
      </NavLink>
      <NavLink to="/ask/who">Who can</NavLink>
      <NavLink to="/ask/why">Why, why not</NavLink>
      <NavLink to="/ask/chains">How could they get it</NavLink>
      <NavLink to="/ask/differ">How do they differ</NavLink>
      <NavLink to="/side">Side by side</NavLink>
    </nav>
  );
}
