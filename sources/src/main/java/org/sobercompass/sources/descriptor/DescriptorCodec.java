package org.sobercompass.sources.descriptor;

import java.io.ByteArrayOutputStream;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.util.ArrayList;
import java.util.HexFormat;
import java.util.List;
import java.util.Optional;
import java.util.UUID;
import org.sobercompass.core.descriptor.Ace;
import org.sobercompass.core.descriptor.AceType;
import org.sobercompass.core.descriptor.Descriptor;
import org.sobercompass.core.descriptor.MalformedException;

/** The binary form of descriptors, both ways ([MS-DTYP] 2.4.2 to 2.4.6). Thread-safe. */
public final class DescriptorCodec {
  private static final int HEAD = 20;
  private static final int HAS_OBJECT = 1;
  private static final int HAS_INHERITED = 2;
  private static final int MOST_PARTS = 15;
  private static final HexFormat HEX = HexFormat.of();

  private DescriptorCodec() {}

  /**
   * Reads a descriptor.
   *
   * @throws MalformedException when lengths, counts or revisions do not fit
   */
  public static Descriptor read(byte[] bytes) throws MalformedException {
    ByteBuffer in = ByteBuffer.wrap(bytes).order(ByteOrder.LITTLE_ENDIAN);
    need(in, 0, HEAD, "a descriptor of at least 20 bytes");
    if (in.get(0) != 1) {
      throw new MalformedException(0, "revision " + (in.get(0) & 0xff), "revision 1");
    }
    int control = in.getShort(2) & 0xffff;
    if ((control & Descriptor.SELF_RELATIVE) == 0) {
      throw new MalformedException(2, "it is not in one piece", "a self-relative descriptor");
    }
    boolean dacl = (control & Descriptor.DACL_PRESENT) != 0;
    boolean sacl = (control & Descriptor.SACL_PRESENT) != 0;
    return new Descriptor(
        control,
        sidAt(in, in.getInt(4)),
        sidAt(in, in.getInt(8)),
        dacl ? list(in, in.getInt(16)) : Optional.empty(),
        sacl ? list(in, in.getInt(12)) : Optional.empty());
  }

  private static Optional<String> sidAt(ByteBuffer in, int at) throws MalformedException {
    return at == 0 ? Optional.empty() : Optional.of(sid(in, at, in.limit()));
  }

  private static void need(ByteBuffer in, int at, int length, String expected)
      throws MalformedException {
    if (at < 0 || length < 0 || (long) at + length > in.limit()) {
      throw new MalformedException(at, "it ends too early", expected);
    }
  }

  private static int sidLength(ByteBuffer in, int at) {
    return 8 + 4 * (in.get(at + 1) & 0xff);
  }

  /** A SID that must end before {@code end} ([MS-DTYP] 2.4.2.2). */
  private static String sid(ByteBuffer in, int at, int end) throws MalformedException {
    need(in, at, 8, "a SID");
    int parts = in.get(at + 1) & 0xff;
    if (in.get(at) != 1 || parts > MOST_PARTS) {
      throw new MalformedException(at, "this is no SID", "revision 1 and at most 15 parts");
    }
    if (at + sidLength(in, at) > end) {
      throw new MalformedException(at, "the SID goes on after the end", parts + " parts");
    }
    long authority = 0;
    for (int i = 2; i < 8; i++) {
      authority = authority << 8 | in.get(at + i) & 0xff;
    }
    StringBuilder text = new StringBuilder("S-1-").append(authority);
    for (int i = 0; i < parts; i++) {
      text.append('-').append(in.getInt(at + 8 + 4 * i) & 0xffffffffL);
    }
    return text.toString();
  }

  private static Optional<List<Ace>> list(ByteBuffer in, int at) throws MalformedException {
    if (at == 0) {
      return Optional.empty();
    }
    need(in, at, 8, "an access control list");
    int revision = in.get(at) & 0xff;
    if (revision != 2 && revision != 4) {
      throw new MalformedException(at, "list of revision " + revision, "revision 2 or 4");
    }
    int size = in.getShort(at + 2) & 0xffff;
    int count = in.getShort(at + 4) & 0xffff;
    need(in, at, size, "a list of " + size + " bytes");
    List<Ace> entries = new ArrayList<>(Math.min(count, size / 8));
    int next = at + 8;
    int end = at + size;
    for (int i = 0; i < count; i++) {
      if (next + 4 > end) {
        throw new MalformedException(next, "the list has " + i + " entries", count + " entries");
      }
      int length = in.getShort(next + 2) & 0xffff;
      if (length < 4 || length % 4 != 0 || next + length > end) {
        throw new MalformedException(next, "an entry of " + length + " bytes", "one that fits");
      }
      entries.add(entry(in, next, next + length));
      next += length;
    }
    return Optional.of(entries);
  }

  private static Ace entry(ByteBuffer in, int at, int end) throws MalformedException {
    int code = in.get(at) & 0xff;
    int flags = in.get(at + 1) & 0xff;
    AceType type = AceType.of(code);
    if (type == AceType.UNKNOWN) {
      return new Ace(
          type, code, flags, 0, Optional.empty(), Optional.empty(), "", hex(in, at + 4, end));
    }
    if (at + 8 > end) {
      throw new MalformedException(at, "an entry without rights", "a mask and a SID");
    }
    int mask = in.getInt(at + 4);
    int next = at + 8;
    Optional<UUID> object = Optional.empty();
    Optional<UUID> inherited = Optional.empty();
    if (type.isObject()) {
      if (next + 4 > end) {
        throw new MalformedException(next, "an object entry without flags", "flags");
      }
      int has = in.getInt(next);
      next += 4;
      if ((has & HAS_OBJECT) != 0) {
        object = Optional.of(guid(in, next, end));
        next += 16;
      }
      if ((has & HAS_INHERITED) != 0) {
        inherited = Optional.of(guid(in, next, end));
        next += 16;
      }
    }
    if (next + 8 > end) {
      throw new MalformedException(next, "an entry without trustee", "a SID");
    }
    String trustee = sid(in, next, end);
    next += sidLength(in, next);
    String data = type.hasData() ? hex(in, next, end) : "";
    return new Ace(type, code, flags, mask, object, inherited, trustee, data);
  }

  private static String hex(ByteBuffer in, int from, int to) {
    return HEX.formatHex(in.array(), from, to);
  }

  /** A GUID ([MS-DTYP] 2.3.4.2): three numbers the small end first, then bytes. */
  private static UUID guid(ByteBuffer in, int at, int end) throws MalformedException {
    if (at + 16 > end) {
      throw new MalformedException(at, "the GUID goes on after the end", "16 bytes");
    }
    long high = (in.getInt(at) & 0xffffffffL) << 32;
    high |= (in.getShort(at + 4) & 0xffffL) << 16 | in.getShort(at + 6) & 0xffffL;
    long low = Long.reverseBytes(in.getLong(at + 8));
    return new UUID(high, low);
  }

  /** Writes a descriptor in one piece. */
  public static byte[] write(Descriptor descriptor) {
    byte[] sacl = descriptor.sacl().map(DescriptorCodec::bytes).orElse(new byte[0]);
    byte[] dacl = descriptor.dacl().map(DescriptorCodec::bytes).orElse(new byte[0]);
    byte[] owner = descriptor.owner().map(DescriptorCodec::sid).orElse(new byte[0]);
    byte[] group = descriptor.group().map(DescriptorCodec::sid).orElse(new byte[0]);
    int control = descriptor.control() | Descriptor.SELF_RELATIVE;
    ByteBuffer out =
        ByteBuffer.allocate(HEAD + sacl.length + dacl.length + owner.length + group.length)
            .order(ByteOrder.LITTLE_ENDIAN);
    int at = HEAD;
    out.put((byte) 1).put((byte) 0).putShort((short) control);
    int saclAt = at;
    int daclAt = saclAt + sacl.length;
    int ownerAt = daclAt + dacl.length;
    int groupAt = ownerAt + owner.length;
    out.putInt(owner.length == 0 ? 0 : ownerAt).putInt(group.length == 0 ? 0 : groupAt);
    out.putInt(sacl.length == 0 ? 0 : saclAt).putInt(dacl.length == 0 ? 0 : daclAt);
    return out.put(sacl).put(dacl).put(owner).put(group).array();
  }

  private static byte[] bytes(List<Ace> entries) {
    ByteArrayOutputStream body = new ByteArrayOutputStream();
    boolean objects = false;
    for (Ace ace : entries) {
      objects |= ace.type().isObject();
      body.writeBytes(entry(ace));
    }
    ByteBuffer out = ByteBuffer.allocate(8 + body.size()).order(ByteOrder.LITTLE_ENDIAN);
    out.put((byte) (objects ? 4 : 2)).put((byte) 0).putShort((short) (8 + body.size()));
    return out.putShort((short) entries.size()).putShort((short) 0).put(body.toByteArray()).array();
  }

  private static byte[] entry(Ace ace) {
    byte[] data = HEX.parseHex(ace.data());
    if (ace.type() == AceType.UNKNOWN) {
      return ByteBuffer.allocate(4 + data.length)
          .order(ByteOrder.LITTLE_ENDIAN)
          .put((byte) ace.code())
          .put((byte) ace.flags())
          .putShort((short) (4 + data.length))
          .put(data)
          .array();
    }
    byte[] trustee = sid(ace.trustee());
    int guids = (ace.object().isPresent() ? 16 : 0) + (ace.inheritedBy().isPresent() ? 16 : 0);
    int length = 8 + (ace.type().isObject() ? 4 + guids : 0) + trustee.length + data.length;
    ByteBuffer out = ByteBuffer.allocate(length).order(ByteOrder.LITTLE_ENDIAN);
    out.put((byte) ace.code()).put((byte) ace.flags()).putShort((short) length);
    out.putInt(ace.mask());
    if (ace.type().isObject()) {
      out.putInt(
          (ace.object().isPresent() ? HAS_OBJECT : 0)
              | (ace.inheritedBy().isPresent() ? HAS_INHERITED : 0));
      ace.object().ifPresent(guid -> put(guid, out));
      ace.inheritedBy().ifPresent(guid -> put(guid, out));
    }
    return out.put(trustee).put(data).array();
  }

  private static void put(UUID guid, ByteBuffer out) {
    long high = guid.getMostSignificantBits();
    out.putInt((int) (high >>> 32)).putShort((short) (high >>> 16)).putShort((short) high);
    out.putLong(Long.reverseBytes(guid.getLeastSignificantBits()));
  }

  /** The bytes of a SID that {@link #read} gave. */
  static byte[] sid(String text) {
    String[] parts = text.split("-");
    ByteBuffer out = ByteBuffer.allocate(8 + 4 * (parts.length - 3)).order(ByteOrder.LITTLE_ENDIAN);
    long authority = Long.parseLong(parts[2]);
    out.put((byte) 1).put((byte) (parts.length - 3));
    for (int shift = 40; shift >= 0; shift -= 8) {
      out.put((byte) (authority >>> shift));
    }
    for (int i = 3; i < parts.length; i++) {
      out.putInt((int) Long.parseLong(parts[i]));
    }
    return out.array();
  }
}
