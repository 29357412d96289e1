package org.sobercompass.sources.directory;

import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.util.Locale;
import java.util.Optional;
import java.util.UUID;

/** Texts of binary ids: objectGUID ([MS-DTYP] 2.3.4.2) and objectSid ([MS-DTYP] 2.4.2.2). */
public final class BinaryIds {
  private BinaryIds() {}

  /** A GUID from its 16 bytes, or a text that is one already. */
  public static Optional<String> guid(byte[] bytes) {
    if (bytes.length == 16) {
      ByteBuffer little = ByteBuffer.wrap(bytes).order(ByteOrder.LITTLE_ENDIAN);
      long high = (long) little.getInt() << 32 | (little.getShort() & 0xffffL) << 16;
      high |= little.getShort() & 0xffffL;
      return Optional.of(new UUID(high, little.order(ByteOrder.BIG_ENDIAN).getLong()).toString());
    }
    String text = new String(bytes, StandardCharsets.UTF_8).toLowerCase(Locale.ROOT);
    return text.matches("[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}")
        ? Optional.of(text)
        : Optional.empty();
  }

  /** A SID from its bytes, or a text that is one already. */
  public static Optional<String> sid(byte[] bytes) {
    if (bytes.length > 4 && bytes[0] == 'S' && bytes[1] == '-') {
      String text = new String(bytes, StandardCharsets.US_ASCII);
      return text.matches("S-1(-[0-9]{1,15}){1,16}") ? Optional.of(text) : Optional.empty();
    }
    boolean fits = bytes.length >= 8 && bytes[0] == 1 && bytes.length == 8 + 4 * bytes[1];
    if (!fits) {
      return Optional.empty();
    }
    ByteBuffer input = ByteBuffer.wrap(bytes);
    long authority = input.getLong(0) & 0xffffffffffffL;
    StringBuilder sid = new StringBuilder("S-1-").append(authority);
    input.order(ByteOrder.LITTLE_ENDIAN);
    for (int i = 8; i < bytes.length; i += 4) {
      sid.append('-').append(input.getInt(i) & 0xffffffffL);
    }
    return Optional.of(sid.toString());
  }
}
