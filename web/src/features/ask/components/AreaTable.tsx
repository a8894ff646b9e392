import type { Schemas } from "../../../api/client";

interface Props {
  areas: Schemas["DifferingArea"][];
  words: { gained: string; lost: string };
  /** Told which area is pointed at, and when none is any more. */
  onPoint?: (area: string | undefined) => void;
}

/** Where rights differ, area by area. */
export function AreaTable({ areas, words, onPoint }: Props) {
  return (
    <table className="plain">
      <thead>
        <tr>
          <th scope="col">area</th>
          <th scope="col">account</th>
          <th scope="col" className="right">
            {words.gained}
          </th>
          <th scope="col" className="right">
            {words.lost}
          </th>
        </tr>
      </thead>
      <tbody>
        {areas.map((it) => (
          <tr
            key={it.key}
            onMouseEnter={() => onPoint?.(it.key)}
            onMouseLeave={() => onPoint?.(undefined)}
          >
            <th scope="row">{it.name}</th>
            <td className="quiet">{it.accountName}</td>
            <td className="right">{it.gained > 0 ? it.gained.toLocaleString("en") : ""}</td>
            <td className="right">{it.lost > 0 ? it.lost.toLocaleString("en") : ""}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
