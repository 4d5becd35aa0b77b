/** A symmetric matrix of `size` x `size`, row by row; only what stands on and below the diagonal is read. */
export type Square = Float64Array

/**
 * The lower triangle L with L L' = A, in place of A (Cholesky; Golub and Van Loan 2013, 4.2). Throws where A is not positive
 * definite.
 */
export function cholesky(matrix: Square, size: number): Square {
  for (let row = 0; row < size; row++) {
    const own = row * size
    for (let column = 0; column <= row; column++) {
      const other = column * size
      let sum = matrix[own + column]!
      for (let at = 0; at < column; at++) sum -= matrix[own + at]! * matrix[other + at]!
      if (column < row) matrix[own + column] = sum / matrix[other + column]!
      else if (sum > 0) matrix[own + row] = Math.sqrt(sum)
      else throw new Error('not positive definite')
    }
  }
  return matrix
}

/** Solves L y = b in place of b. */
export function forwards(lower: Square, size: number, vector: Float64Array): Float64Array {
  for (let row = 0; row < size; row++) {
    let sum = vector[row]!
    for (let at = 0; at < row; at++) sum -= lower[row * size + at]! * vector[at]!
    vector[row] = sum / lower[row * size + row]!
  }
  return vector
}

/** Solves L' y = b in place of b. */
export function backwards(lower: Square, size: number, vector: Float64Array): Float64Array {
  for (let row = size - 1; row >= 0; row--) {
    const value = vector[row]! / lower[row * size + row]!
    vector[row] = value
    for (let at = 0; at < row; at++) vector[at]! -= lower[row * size + at]! * value
  }
  return vector
}
