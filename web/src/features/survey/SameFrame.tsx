import { useEffect, useRef, useState } from "react";
import { Button, Dialog, Notice } from "@/shared/ui";

interface Props {
  name: string;
  says: string;
  /** the last picture from here: it lies faint over what the camera sees */
  last: string | undefined;
  onTaken: (file: File) => void;
  onClose: () => void;
}

const FAINT = 40; // per cent
const WANTED = { video: { facingMode: "environment", width: { ideal: 2560 } }, audio: false };

/** The camera with the last picture faint over it, so that one stands where one stood and looks where one looked. */
export function SameFrame({ name, says, last, onTaken, onClose }: Props) {
  const video = useRef<HTMLVideoElement>(null);
  const [faint, setFaint] = useState(FAINT);
  const [ready, setReady] = useState(false);
  const [wrong, setWrong] = useState("");
  const [unseen, setUnseen] = useState(false);
  useEffect(() => {
    let stream: MediaStream | undefined;
    let closed = false;
    const begin = async () => {
      try {
        stream = await navigator.mediaDevices.getUserMedia(WANTED);
        if (closed) return stop();
        if (video.current) video.current.srcObject = stream;
      } catch {
        setWrong(
          "This device gives no camera to the app. Take the picture as usual and choose it from its files.",
        );
      }
    };
    const stop = () => {
      for (const track of stream?.getTracks() ?? []) track.stop();
    };
    void begin();
    return () => {
      closed = true;
      stop();
    };
  }, []);
  const shoot = async () => {
    const seen = video.current;
    if (!seen) return;
    const canvas = new OffscreenCanvas(seen.videoWidth, seen.videoHeight);
    canvas.getContext("2d")?.drawImage(seen, 0, 0);
    const blob = await canvas.convertToBlob({ type: "image/jpeg", quality: 0.92 });
    onTaken(new File([blob], `${name}.jpg`, { type: "image/jpeg" }));
  };
  return (
    <Dialog open onOpenChange={(open) => !open && onClose()} title={`Photograph: ${name}`}>
      <div className="grid gap-3">
        {says && <p>{says}</p>}
        {wrong ? (
          <Notice kind="refused">{wrong}</Notice>
        ) : (
          <div className="relative bg-board">
            <video
              ref={video}
              autoPlay
              playsInline
              muted
              aria-label="What the camera sees"
              className="block max-h-[60dvh] w-full object-contain"
              onLoadedData={() => setReady(true)}
            />
            {last && !unseen && (
              <img
                src={last}
                alt="As it was last seen from here, faint"
                style={{ opacity: faint / 100 }}
                className="pointer-events-none absolute inset-0 h-full w-full object-contain"
                onError={() => setUnseen(true)}
              />
            )}
          </div>
        )}
        {last && !unseen && !wrong && (
          <label className="block text-sm text-soft">
            How strongly the last picture shows
            <input
              type="range"
              min={0}
              max={100}
              step={5}
              value={faint}
              className="block h-11 w-full"
              onChange={(e) => setFaint(Number(e.target.value))}
            />
          </label>
        )}
        {last && unseen && <p className="text-sm text-soft">The last picture cannot be read just now.</p>}
        {!last && (
          <p className="text-sm text-soft">The first picture from here: its frame is the one to keep.</p>
        )}
        <Button weight="act" disabled={!ready || wrong !== ""} onClick={() => void shoot()}>
          Take the picture
        </Button>
      </div>
    </Dialog>
  );
}
