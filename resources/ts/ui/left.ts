/** How long something will take yet, in words: to the second below two minutes, to the minute above. */
export function leftText(seconds: number): string {
  const whole = Math.ceil(seconds);
  if (whole < 120) return `about ${whole} s left`;
  const minutes = Math.ceil(seconds / 60);
  if (minutes < 120) return `about ${minutes} min left`;
  return `about ${Math.floor(minutes / 60)} h ${minutes % 60} min left`;
}
