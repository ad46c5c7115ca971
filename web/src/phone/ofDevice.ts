import { heldOf, type Place, type Sensing } from "./sensing";

interface WithCompass extends DeviceOrientationEvent {
  webkitCompassHeading?: number;
}

interface AsksFirst {
  requestPermission?: () => Promise<"granted" | "denied">;
}

const NOT_ALLOWED =
  "This browser may not use the phone’s sensors. Allow it in the browser's settings.";
const NONE = "This device has no motion sensors, or the page was not opened by https.";
const WAIT_MS = 3000;

/** The phone's own sensors, asked for when they are first used. */
export const ofDevice: Sensing = {
  note: "",
  follow: (onHeld, onTrouble) => {
    let heard = false;
    let absolute = false;
    const hear = (event: WithCompass) => {
      const { beta, gamma } = event;
      if (beta === null || gamma === null) return;
      if (event.type === "deviceorientationabsolute") absolute = true;
      else if (absolute) return; // the other event of the same moment, without north
      heard = true;
      const compass = event.webkitCompassHeading;
      const alpha = compass === undefined ? (event.absolute ? event.alpha : null) : 360 - compass;
      onHeld(heldOf(alpha, beta, gamma, window.screen.orientation.angle));
    };
    const begin = () => {
      window.addEventListener("deviceorientationabsolute", hear as EventListener);
      window.addEventListener("deviceorientation", hear);
    };
    const timer = window.setTimeout(() => {
      if (!heard) onTrouble(NONE);
    }, WAIT_MS);
    const asks = ("DeviceOrientationEvent" in window ? DeviceOrientationEvent : {}) as AsksFirst;
    if (asks.requestPermission)
      asks.requestPermission().then(
        (answer) => (answer === "granted" ? begin() : onTrouble(NOT_ALLOWED)),
        () => onTrouble(NOT_ALLOWED),
      );
    else begin();
    return () => {
      window.clearTimeout(timer);
      window.removeEventListener("deviceorientationabsolute", hear as EventListener);
      window.removeEventListener("deviceorientation", hear);
    };
  },
  place: () =>
    new Promise<Place>((resolve, reject) => {
      if (!("geolocation" in navigator)) return reject(new Error(NO_PLACE));
      navigator.geolocation.getCurrentPosition(
        ({ coords }) =>
          resolve({
            latitudeDeg: coords.latitude,
            longitudeDeg: coords.longitude,
            plusMinusM: coords.accuracy,
          }),
        () => reject(new Error(NO_PLACE)),
        { enableHighAccuracy: true, timeout: 20_000, maximumAge: 60_000 },
      );
    }),
};

const NO_PLACE = "No location. Allow it in the phone's settings and try again.";
