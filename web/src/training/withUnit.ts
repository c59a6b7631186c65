/** What a display shows, with its unit where it is a value. */
export const withUnit = (reading: string, unit: string) =>
  /^[\d.>]+$/.test(reading) ? `${reading} ${unit}` : reading;
