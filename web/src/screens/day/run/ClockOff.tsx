// A device whose clock is far from the gym's: the class goes by the gym's, and one of them is wrong.
import { useClockOff, useMoment } from "../../../clock/moment";

/** Seconds that nobody would notice, and many a device is off by. */
const FAR_S = 120;

const time = (seconds: number) =>
  new Date(seconds * 1000).toLocaleString(undefined, { dateStyle: "medium", timeStyle: "short" });

export function ClockOff() {
  const off = useClockOff();
  const now = useMoment();
  if (!now || Math.abs(off) < FAR_S) return null;
  return (
    <p role="alert">
      By this device it is {time(now() - off)}, by the gym’s server {time(now())}. Classes and
      “today” go by the server: set right whichever is wrong.
    </p>
  );
}
