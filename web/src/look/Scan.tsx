import { useEffect, useRef, useState } from "react";
import { useShown } from "../app/shown";
import { useNavigate } from "react-router";
import { Button } from "../ui/Button";
import type { Scanned } from "../api/client";
import { readCode } from "./useLook";

/** how often a picture of the camera is looked at, ms. */
const beat = 700;

/** Scan reads the code of a label: by the camera where the browser gives it to the page, by a photograph, or by a scanner that types. */
export function Scan({ onPlace }: { onPlace: (id: string) => void }) {
  const [live, setLive] = useState(false);
  const [says, setSays] = useState("");
  const [typed, setTyped] = useState("");
  const { select } = useShown();
  const navigate = useNavigate();
  const took = (s: Scanned) => {
    setSays(s.says);
    if (s.says !== "") return;
    setLive(false);
    if (s.of === "item") {
      select({ kind: "item", id: s.id });
      void navigate({ pathname: "/find", search: `?on=item:${encodeURIComponent(s.id)}` });
    } else onPlace(s.id);
  };
  const read = (picture: Blob) =>
    readCode(picture).then(took, (e: unknown) => {
      setSays(e instanceof Error ? e.message : "It could not be read.");
    });
  const camera = "mediaDevices" in navigator && window.isSecureContext;
  return (
    <div className="mb-3 flex flex-wrap items-baseline gap-x-4 gap-y-1 text-small">
      {camera && <Button onClick={() => setLive(!live)}>{live ? "Close the camera" : "Scan a label"}</Button>}
      <label className="cursor-pointer font-semibold text-blue hover:underline thumb:min-h-11">
        {camera ? "or a photograph of it" : "Photograph a label"}
        <input
          type="file"
          accept="image/*"
          capture="environment"
          className="sr-only"
          onChange={(e) => {
            const file = e.target.files?.[0];
            e.target.value = "";
            if (file) void read(file);
          }}
        />
      </label>
      <form
        className="flex items-baseline gap-2"
        onSubmit={(e) => {
          e.preventDefault();
          const text = typed.trim();
          setTyped("");
          if (text === "") return;
          const id = /\/s\/[pci]\/([^/?#]+)$/.exec(text)?.[1] ?? /^hobrak:(?:place|container|item):(.+)$/.exec(text)?.[1] ?? text;
          onPlace(decodeURIComponent(id));
        }}
      >
        <span className="text-quiet">or its address</span>
        <input
          aria-label="Address of a label"
          value={typed}
          onChange={(e) => setTyped(e.target.value)}
          className="w-24 border-b border-line bg-transparent"
        />
      </form>
      {says !== "" && (
        <span className="text-red" role="status">
          {says}
        </span>
      )}
      {live && <Camera onPicture={read} onFail={setSays} />}
    </div>
  );
}

/** Camera looks through the camera and hands over a picture now and then. */
function Camera({ onPicture, onFail }: { onPicture: (b: Blob) => Promise<void>; onFail: (says: string) => void }) {
  const video = useRef<HTMLVideoElement>(null);
  const hand = useRef(onPicture);
  hand.current = onPicture;
  const fail = useRef(onFail);
  fail.current = onFail;
  useEffect(() => {
    let stream: MediaStream | undefined;
    let timer: ReturnType<typeof setTimeout> | undefined;
    let gone = false;
    const look = () => {
      const v = video.current;
      if (gone || !v) return;
      const again = () => {
        if (!gone) timer = setTimeout(look, beat);
      };
      if (v.videoWidth === 0) {
        again();
        return;
      }
      const c = document.createElement("canvas");
      c.width = v.videoWidth;
      c.height = v.videoHeight;
      c.getContext("2d")?.drawImage(v, 0, 0);
      c.toBlob((b) => (b && !gone ? void hand.current(b).finally(again) : again()), "image/jpeg", 0.8);
    };
    navigator.mediaDevices.getUserMedia({ video: { facingMode: "environment" } }).then(
      (s) => {
        stream = s;
        if (gone) s.getTracks().forEach((t) => t.stop());
        else if (video.current) {
          video.current.srcObject = s;
          void video.current.play();
          look();
        }
      },
      () => fail.current("The browser does not give the camera to this page: photograph the label instead."),
    );
    return () => {
      gone = true;
      clearTimeout(timer);
      stream?.getTracks().forEach((t) => t.stop());
    };
  }, []);
  return <video ref={video} muted playsInline className="block w-full max-w-100 border border-ink" aria-label="What the camera sees" />;
}
