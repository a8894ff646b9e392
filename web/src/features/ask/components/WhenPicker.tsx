import { useState } from "react";
import { Button, Calendar } from "antd";
import dayjs from "dayjs";
import utc from "dayjs/plugin/utc";

dayjs.extend(utc);

/** Chooses an instant: a date, or typed to the second. */
export function WhenPicker({ at, onChoose }: { at: string; onChoose: (at: string) => void }) {
  const [picked, setPicked] = useState(() => (at ? dayjs.utc(at) : dayjs.utc()));
  const [typed, setTyped] = useState(at);
  return (
    <div className="when">
      <Calendar
        fullscreen={false}
        value={picked}
        onSelect={(date, { source }) => {
          setPicked(date);
          if (source === "date") {
            const time = at ? at.slice(11) : "12:00:00Z";
            onChoose(`${date.format("YYYY-MM-DD")}T${time}`);
          }
        }}
      />
      <form
        onSubmit={(event) => {
          event.preventDefault();
          onChoose(typed.trim());
        }}
      >
        <label>
          or an instant
          <input
            value={typed}
            placeholder="2026-05-01T09:00:00Z"
            onChange={(event) => setTyped(event.target.value)}
          />
        </label>
        <Button htmlType="submit" size="small">
          Ask then
        </Button>
        <Button size="small" type="text" onClick={() => onChoose("")}>
          today
        </Button>
      </form>
    </div>
  );
}
