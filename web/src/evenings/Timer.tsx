import { useEffect, useState } from "react";
import { Button } from "../ui/Button";

const lengths = [5, 10, 20, 40];

/** Timer for a pile: as long as one has, then it says so and one may stop with a good conscience. */
export function Timer({ done }: { done: number }) {
  const [until, setUntil] = useState<number>();
  const [began, setBegan] = useState(0);
  const [now, setNow] = useState(() => Date.now());
  const running = until !== undefined && now < until;
  useEffect(() => {
    if (!running) {
      return;
    }
    const tick = setInterval(() => setNow(Date.now()), 1000);
    return () => clearInterval(tick);
  }, [running]);
  const start = (minutes: number) => {
    const t = Date.now();
    setNow(t);
    setBegan(done);
    setUntil(t + minutes * 60_000);
  };
  if (running) {
    const left = Math.ceil((until - now) / 1000);
    return (
      <p className="mt-2 mb-0 flex flex-wrap items-center gap-3" role="timer" aria-label="Time left for the pile">
        <b className="text-head tabular-nums">
          {Math.floor(left / 60)}:{String(left % 60).padStart(2, "0")}
        </b>
        left
        <Button onClick={() => setUntil(undefined)}>Stop the clock</Button>
      </p>
    );
  }
  return (
    <div className="mt-2 flex flex-wrap items-center gap-2">
      {until !== undefined && (
        <p className="m-0 w-full" role="status">
          <b>Time is up.</b> {done - began === 1 ? "1 thing" : `${done - began} things`} decided. The rest will still be there next time.
        </p>
      )}
      <span className="text-small text-quiet">How long have you got?</span>
      {lengths.map((m) => (
        <Button key={m} onClick={() => start(m)}>
          {m} min
        </Button>
      ))}
    </div>
  );
}
