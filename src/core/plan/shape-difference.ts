interface Shape {
  width: number;
  height: number;
}

/** By what share the ratio of one picture's sides differs from another's, 0 for the same: two that differ clearly are different crops. */
export const shapeDifference = (one: Shape, other: Shape): number =>
  Math.abs((one.width * other.height) / Math.max(1, one.height * other.width) - 1);
