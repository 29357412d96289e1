package org.sobercompass.sources.survey;

import java.io.IOException;
import java.io.OutputStream;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.HexFormat;

/** SHA-256 (FIPS 180-4). */
final class Digests {
  private Digests() {}

  static MessageDigest sha256() {
    try {
      return MessageDigest.getInstance("SHA-256");
    } catch (NoSuchAlgorithmException e) {
      throw new IllegalStateException(e);
    }
  }

  /** Digests and counts what goes through. */
  static final class Counting extends OutputStream {
    private final OutputStream out;
    private final MessageDigest digest = sha256();
    private long count;

    Counting(OutputStream out) {
      this.out = out;
    }

    @Override
    public void write(int b) throws IOException {
      write(new byte[] {(byte) b}, 0, 1);
    }

    @Override
    public void write(byte[] bytes, int from, int length) throws IOException {
      out.write(bytes, from, length);
      digest.update(bytes, from, length);
      count += length;
    }

    @Override
    public void flush() throws IOException {
      out.flush();
    }

    @Override
    public void close() throws IOException {
      out.close();
    }

    long count() {
      return count;
    }

    /** The digest of all so far; once. */
    String hex() {
      return HexFormat.of().formatHex(digest.digest());
    }
  }
}
