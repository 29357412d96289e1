package org.sobercompass.sources.workspace;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.CompletableFuture;
import java.util.zip.CRC32;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.problem.OutsideException;
import org.sobercompass.sources.disk.Checksum;
import org.sobercompass.sources.disk.OwnFiles;

/**
 * The disposable binary cache of facts beside the sources: {@code .compass/facts.bin}. Its key is a
 * digest of the form of the cache, the settings of the directories, the attributes kept and length,
 * time of change and CRC-32 of all exports, so a change of any of them makes it useless (who could
 * forge all three could write the cache itself); a checksum (CRC-32) shows damage. A cache that
 * does not fit is passed over, never told. Small exports are not cached.
 */
final class FactsCache {
  private static final int FORM = 8;
  private static final long SMALLEST = 4L << 20;
  private static final int HEAD = 32 + 8;

  private final Path file;
  private final String settings;
  private final List<CompletableFuture<byte[]>> digests = new ArrayList<>();
  private final boolean worthwhile;

  /** Digesting begins at once, on another thread, while the rest of the workspace is read. */
  FactsCache(Path root, List<Export> exports, String rules) {
    this.file = root.resolve(".compass").resolve("facts.bin");
    long bytes = 0;
    StringBuilder all = new StringBuilder(rules);
    for (Export export : exports) {
      all.append(export.key());
      bytes += export.path().toFile().length();
    }
    this.settings = all.toString();
    this.worthwhile = bytes >= SMALLEST;
    if (worthwhile) {
      for (Export export : exports) {
        digests.add(CompletableFuture.supplyAsync(() -> digest(export.path())));
        export
            .schema()
            .filter(Files::isReadable)
            .ifPresent(file -> digests.add(CompletableFuture.supplyAsync(() -> digest(file))));
      }
    }
  }

  /** Length, time of change and CRC-32, which is native code and so fast from the first call on. */
  private static byte[] digest(Path export) {
    try {
      return ByteBuffer.allocate(24)
          .putLong(Files.size(export))
          .putLong(Files.getLastModifiedTime(export).toMillis())
          .putLong(Checksum.of(export))
          .array();
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  private byte[] key(Set<String> needs) {
    MessageDigest digest = sha256();
    digest.update((FORM + " " + needs + "\n" + settings).getBytes(StandardCharsets.UTF_8));
    digests.forEach(part -> digest.update(part.join()));
    return digest.digest();
  }

  private static MessageDigest sha256() {
    try {
      return MessageDigest.getInstance("SHA-256");
    } catch (NoSuchAlgorithmException e) {
      throw new IllegalStateException("every Java has SHA-256", e);
    }
  }

  Optional<Facts> read(Set<String> needs) {
    if (!worthwhile || !Files.isRegularFile(file)) {
      return Optional.empty();
    }
    try (FileChannel in = FileChannel.open(file)) {
      if (in.size() < HEAD || in.size() > Integer.MAX_VALUE) {
        return Optional.empty();
      }
      ByteBuffer buffer = in.map(FileChannel.MapMode.READ_ONLY, 0, in.size());
      byte[] found = new byte[32];
      buffer.get(found);
      long sum = buffer.getLong();
      if (sum != checksum(buffer.duplicate())) {
        return Optional.empty();
      }
      Facts facts = new Facts(FactsCodec.read(new FactsCodec.In(buffer)));
      return Arrays.equals(found, key(needs)) ? Optional.of(facts) : Optional.empty();
    } catch (IOException | RuntimeException e) {
      return Optional.empty();
    }
  }

  private static long checksum(ByteBuffer rest) {
    CRC32 sum = new CRC32();
    sum.update(rest);
    return sum.getValue();
  }

  /**
   * Writes the cache beside and moves it into place; a folder that cannot be written is no fault.
   */
  void write(Facts facts, Set<String> needs) {
    if (!worthwhile) {
      return;
    }
    try {
      OwnFiles.cache(
          file,
          out -> {
            CRC32 sum = new CRC32();
            out.position(HEAD);
            FactsCodec.write(facts.arrays(), bytes -> put(out, bytes, sum));
            ByteBuffer head =
                ByteBuffer.allocate(HEAD).put(key(needs)).putLong(sum.getValue()).flip();
            out.position(0);
            while (head.hasRemaining()) {
              out.write(head);
            }
          });
    } catch (OutsideException e) {
      return; // a folder that cannot be written has no cache; the answer is there all the same
    }
  }

  private static void put(FileChannel out, ByteBuffer bytes, CRC32 sum) {
    sum.update(bytes.duplicate());
    try {
      while (bytes.hasRemaining()) {
        out.write(bytes);
      }
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }
}
