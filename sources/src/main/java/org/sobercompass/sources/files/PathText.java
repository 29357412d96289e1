package org.sobercompass.sources.files;

import java.io.ByteArrayOutputStream;
import java.nio.ByteBuffer;
import java.nio.charset.CharacterCodingException;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.Locale;
import org.sobercompass.core.system.PathTree;

/**
 * Paths as bytes. Octal escapes ({@code \040}) are taken back, except for control characters and
 * backslashes, which stay written out; bytes that are no UTF-8 are written out too, so that two
 * different names never look the same. Keeps the last folder, as paths come folder by folder. Not
 * thread-safe.
 */
final class PathText {
  private final PathTree.Builder tree;
  private byte[] lastFolder = new byte[0];
  private int lastNode;

  PathText(PathTree.Builder tree) {
    this.tree = tree;
  }

  /** The node of a path, or -1 when it leads out of its tree. */
  int node(byte[] path) {
    int cut = path.length;
    while (cut > 0 && path[cut - 1] == '/') {
      cut--;
    }
    int slash = cut - 1;
    while (slash >= 0 && path[slash] != '/') {
      slash--;
    }
    int above = folder(path, slash);
    return above < 0 ? -1 : step(above, path, slash + 1, cut);
  }

  private int folder(byte[] path, int end) {
    if (end <= 0) {
      return 0;
    }
    if (end == lastFolder.length && Arrays.equals(path, 0, end, lastFolder, 0, end)) {
      return lastNode;
    }
    int node = 0;
    int from = 0;
    for (int i = 0; i <= end && node >= 0; i++) {
      if (i == end || path[i] == '/') {
        node = step(node, path, from, i);
        from = i + 1;
      }
    }
    lastFolder = Arrays.copyOf(path, end);
    lastNode = node;
    return node;
  }

  private int step(int above, byte[] path, int from, int to) {
    int length = to - from;
    boolean dot = length == 1 && path[from] == '.';
    if (length == 0 || dot) {
      return above;
    }
    if (length == 2 && path[from] == '.' && path[from + 1] == '.') {
      return -1;
    }
    byte[] name = Arrays.copyOfRange(path, from, to);
    return tree.child(above, isPlain(name) ? name : clean(name));
  }

  private static boolean isPlain(byte[] name) {
    for (byte b : name) {
      if (b < 0x20 || b == '\\' || b == 0x7f) {
        return false;
      }
    }
    return true;
  }

  /** Takes escapes back, and writes out what cannot be shown. */
  static byte[] clean(byte[] name) {
    byte[] raw = unescaped(name);
    boolean text = isText(raw);
    ByteArrayOutputStream out = new ByteArrayOutputStream(raw.length + 8);
    for (byte b : raw) {
      boolean shown = b >= 0x20 ? b != 0x7f && b != '\\' : b < 0 && text;
      if (shown) {
        out.write(b);
      } else {
        out.writeBytes(
            String.format(Locale.ROOT, "\\%03o", b & 0xff).getBytes(StandardCharsets.US_ASCII));
      }
    }
    return out.toByteArray();
  }

  private static boolean isText(byte[] raw) {
    try {
      StandardCharsets.UTF_8.newDecoder().decode(ByteBuffer.wrap(raw));
      return true;
    } catch (CharacterCodingException e) {
      return false;
    }
  }

  /**
   * Octal escapes as bytes, and two backslashes as one, as {@code getfacl} writes them; a backslash
   * before anything else stands for itself.
   */
  static byte[] unescaped(byte[] name) {
    ByteArrayOutputStream out = new ByteArrayOutputStream(name.length);
    for (int i = 0; i < name.length; i++) {
      boolean escape =
          name[i] == '\\'
              && i + 3 < name.length
              && isOctal(name[i + 1])
              && isOctal(name[i + 2])
              && isOctal(name[i + 3]);
      if (escape) {
        out.write((name[i + 1] - '0') << 6 | (name[i + 2] - '0') << 3 | (name[i + 3] - '0'));
        i += 3;
      } else if (name[i] == '\\' && i + 1 < name.length && name[i + 1] == '\\') {
        out.write('\\');
        i++;
      } else {
        out.write(name[i]);
      }
    }
    return out.toByteArray();
  }

  private static boolean isOctal(byte b) {
    return b >= '0' && b <= '7';
  }
}
