/** Small dense matrices, row by row, and the bell: what generalised least squares needs. */

export const dot = (a: Float64Array, b: Float64Array): number => {
  let sum = 0;
  for (let index = 0; index < a.length; index += 1) sum += a[index] * b[index];
  return sum;
};

/** Lower root of a positive matrix (Cholesky); undefined where it is none. */
export function rootOf(matrix: Float64Array, size: number): Float64Array | undefined {
  const root = new Float64Array(size * size);
  for (let row = 0; row < size; row += 1)
    for (let column = 0; column <= row; column += 1) {
      let sum = matrix[row * size + column];
      for (let inner = 0; inner < column; inner += 1) sum -= root[row * size + inner] * root[column * size + inner];
      if (row === column) {
        if (!(sum > 0)) return undefined;
        root[row * size + row] = Math.sqrt(sum);
      } else root[row * size + column] = sum / root[column * size + column];
    }
  return root;
}

/** What is seen through a lower root: with that root's noise in it, as noise of one size that forgets at once. */
export function evened(root: Float64Array, size: number, right: Float64Array): Float64Array {
  const found = Float64Array.from(right);
  for (let row = 0; row < size; row += 1) {
    let rest = found[row];
    for (let column = 0; column < row; column += 1) rest -= root[row * size + column] * found[column];
    found[row] = rest / root[row * size + row];
  }
  return found;
}

export function solved(root: Float64Array, size: number, right: Float64Array): Float64Array {
  const found = evened(root, size, right);
  for (let row = size - 1; row >= 0; row -= 1) {
    for (let column = row + 1; column < size; column += 1) found[row] -= root[column * size + row] * found[column];
    found[row] /= root[row * size + row];
  }
  return found;
}

/** Share of a bell below so many deviations (Abramowitz and Stegun 26.2.17, to 1e-7). */
export function normal(deviations: number): number {
  const size = Math.abs(deviations);
  const t = 1 / (1 + 0.2316419 * size);
  const tail =
    0.3989422804014327 *
    Math.exp((-size * size) / 2) *
    t *
    (0.31938153 + t * (-0.356563782 + t * (1.781477937 + t * (-1.821255978 + t * 1.330274429))));
  return deviations < 0 ? tail : 1 - tail;
}
