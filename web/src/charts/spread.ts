/** Move labels apart so that none is nearer than `gap` to the next, each as near its place as that allows. */
export function spreadApart(places: number[], gap: number, low: number, high: number): number[] {
  const order = places.map((_, index) => index).sort((a, b) => (places[a] ?? 0) - (places[b] ?? 0));
  const moved = [...places];
  let last = low - gap;
  for (const index of order) {
    last = Math.max(moved[index] ?? 0, last + gap);
    moved[index] = last;
  }
  let next = high + gap;
  for (const index of [...order].reverse()) {
    next = Math.min(moved[index] ?? 0, next - gap);
    moved[index] = next;
  }
  return moved;
}

/** A round step (1, 2 or 5 times a power of ten), at least `least`, that cuts a range into at most `most` parts. */
export function roundStep(low: number, high: number, least: number, most: number): number {
  for (let power = Math.floor(Math.log10(least)); ; power += 1) {
    for (const digit of [1, 2, 5]) {
      const step = digit * 10 ** power;
      if (step > least * 0.999 && (high - low) / step <= most) return step;
    }
  }
}

/** Round steps across a range, ends included. */
export function steps(low: number, high: number, step: number): number[] {
  const first = Math.ceil(low / step - 1e-9);
  const last = Math.floor(high / step + 1e-9);
  return Array.from(
    { length: Math.max(0, last - first + 1) },
    (_, index) => Math.round((first + index) * step * 1000) / 1000,
  );
}
