/** Where the person stands, asked of the device, and how far something is from there. */
export type Position = { latitude: number; longitude: number };

const EARTH_KM = 6371;
const radians = (degrees: number) => (degrees * Math.PI) / 180;

/** The device's position; an error in words where it gives none. */
export function whereAmI(): Promise<Position> {
  return new Promise((resolve, reject) => {
    if (!("geolocation" in navigator)) reject(new Error("This device does not know where it is."));
    navigator.geolocation.getCurrentPosition(
      (found) => resolve({ latitude: found.coords.latitude, longitude: found.coords.longitude }),
      () => reject(new Error("The device did not say where it is. Choose the apiary from the list.")),
      { timeout: 10_000, maximumAge: 60_000 },
    );
  });
}

/** Kilometres between two places along the sphere (haversine). */
export function distanceKm(a: Position, b: Position): number {
  const north = radians(b.latitude - a.latitude);
  const east = radians(b.longitude - a.longitude);
  const half =
    Math.sin(north / 2) ** 2 + Math.cos(radians(a.latitude)) * Math.cos(radians(b.latitude)) * Math.sin(east / 2) ** 2;
  return 2 * EARTH_KM * Math.asin(Math.sqrt(half));
}
