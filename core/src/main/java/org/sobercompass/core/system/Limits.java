package org.sobercompass.core.system;

/**
 * How much to explain.
 *
 * @param proofs how many proofs, and how many stopped ones, at most
 * @param paths how many chains of memberships for each proof at most
 */
public record Limits(int proofs, int paths) {
  /** Enough for a person to read. */
  public static final Limits USUAL = new Limits(50, 20);

  /** The shortest only. */
  public static final Limits ONE = new Limits(1, 1);
}
