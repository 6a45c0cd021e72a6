import { useState } from "react";
import { Button } from "@/shared/ui";

const PLACES = 5; // of a degree: about a metre

/** The place of the device, for who stands on the site. */
export function DevicePlace({
  onPlace,
}: {
  onPlace: (lat: number, lon: number, elevation_m: number | null) => void;
}) {
  const [said, setSaid] = useState("");
  const ask = () => {
    setSaid("Asking the device …");
    navigator.geolocation.getCurrentPosition(
      ({ coords }) => {
        const elevation = coords.altitude === null ? null : Math.round(coords.altitude);
        onPlace(Number(coords.latitude.toFixed(PLACES)), Number(coords.longitude.toFixed(PLACES)), elevation);
        setSaid(`Taken, to within ${Math.round(coords.accuracy)} m.`);
      },
      (error) => setSaid(`The device gave no place (${error.message}). Type it from a map.`),
      { enableHighAccuracy: true, timeout: 20_000 },
    );
  };
  if (!("geolocation" in navigator)) return null;
  return (
    <p>
      <Button onClick={ask}>Use the place of this device</Button> <span role="status">{said}</span>
    </p>
  );
}
