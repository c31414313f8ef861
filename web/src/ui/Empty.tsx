import type { ReactNode } from "react";
import { useNavigate } from "react-router";
import { Button } from "./Button";

/** Empty stands where there is nothing yet: what will be there, why it is worth it, and the way to begin. */
export function Empty({
  title,
  children,
  act,
  to,
  onAct,
}: {
  title: string;
  children: ReactNode;
  act?: string;
  to?: string;
  onAct?: () => void;
}) {
  const navigate = useNavigate();
  return (
    <div className="max-w-110 py-2" data-empty="yes">
      <h2 className="text-head leading-tight font-bold">{title}</h2>
      <p className="mt-1 mb-3 text-body">{children}</p>
      {act && (
        <Button kind="main" onClick={() => (onAct ? onAct() : to && void navigate(to))}>
          {act}
        </Button>
      )}
    </div>
  );
}
