/** A share in words of a hundred. */
export const outOf100 = (share: number) =>
  share > 0 && share < 0.01 ? "under 1 in 100" : `${Math.round(share * 100)} in 100`;
