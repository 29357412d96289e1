package org.sobercompass.core.key;

import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.HexFormat;
import java.util.List;

/**
 * A short digest of what a row of a table says: another one tells that somebody changed the row.
 */
public final class RowCheck {
  private static final int DIGITS = 8;

  private RowCheck() {}

  /** The digest of some values; spaces around them do not count. */
  public static String of(List<String> values) {
    try {
      byte[] digest =
          MessageDigest.getInstance("SHA-256")
              .digest(
                  String.join("\u0000", values.stream().map(String::strip).toList())
                      .getBytes(StandardCharsets.UTF_8));
      return HexFormat.of().formatHex(digest).substring(0, DIGITS);
    } catch (NoSuchAlgorithmException e) {
      throw new IllegalStateException("every Java has SHA-256", e);
    }
  }
}
