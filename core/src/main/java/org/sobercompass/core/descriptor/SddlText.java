package org.sobercompass.core.descriptor;

import java.nio.charset.StandardCharsets;
import java.util.HexFormat;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.UUID;

/** Writes SDDL ([MS-DTYP] 2.5.1). */
final class SddlText {
  private static final int SINGLE_BITS = 17;

  private SddlText() {}

  /** One entry as text. An unknown one is shown with its number and bytes. */
  static String text(Ace ace) {
    if (ace.type() == AceType.UNKNOWN) {
      return "(0x" + Integer.toHexString(ace.code()) + ";" + flagText(ace) + ";" + ace.data() + ")";
    }
    String data = ace.data().isEmpty() ? "" : ";" + condition(ace.data());
    return "("
        + ace.type().letters()
        + ";"
        + flagText(ace)
        + ";"
        + maskText(ace.mask())
        + ";"
        + ace.object().map(UUID::toString).orElse("")
        + ";"
        + ace.inheritedBy().map(UUID::toString).orElse("")
        + ";"
        + SddlNames.letters(ace.trustee())
        + data
        + ")";
  }

  /** What was text stays text; bytes are shown in hexadecimal. */
  private static String condition(String hex) {
    byte[] bytes = HexFormat.of().parseHex(hex);
    String text = new String(bytes, StandardCharsets.UTF_8);
    boolean plain = text.startsWith("(") && text.chars().allMatch(c -> c >= ' ' && c < 0xfffd);
    return plain ? text : hex;
  }

  private static String flagText(Ace ace) {
    StringBuilder out = new StringBuilder();
    Sddl.FLAGS.forEach((letters, flag) -> out.append((ace.flags() & flag) != 0 ? letters : ""));
    return out.toString();
  }

  private static String maskText(int mask) {
    StringBuilder out = new StringBuilder();
    int left = mask;
    int n = 0;
    for (Map.Entry<String, Integer> right : Sddl.RIGHTS.entrySet()) {
      if (n++ < SINGLE_BITS && (left & right.getValue()) != 0) {
        out.append(right.getKey());
        left &= ~right.getValue();
      }
    }
    return left == 0 ? out.toString() : "0x" + Integer.toHexString(mask);
  }

  /** A whole descriptor as text. */
  static String text(Descriptor descriptor) {
    StringBuilder out = new StringBuilder();
    descriptor.owner().ifPresent(sid -> out.append("O:").append(SddlNames.letters(sid)));
    descriptor.group().ifPresent(sid -> out.append("G:").append(SddlNames.letters(sid)));
    int control = descriptor.control();
    if ((control & Descriptor.DACL_PRESENT) != 0) {
      out.append("D:").append(descriptor.isProtected() ? "P" : "");
      out.append((control & Descriptor.DACL_AUTO_INHERITED) != 0 ? "AI" : "");
      list(descriptor.dacl(), out);
    }
    if ((control & Descriptor.SACL_PRESENT) != 0) {
      out.append("S:").append((control & Descriptor.SACL_PROTECTED) != 0 ? "P" : "");
      out.append((control & Descriptor.SACL_AUTO_INHERITED) != 0 ? "AI" : "");
      list(descriptor.sacl(), out);
    }
    return out.toString();
  }

  private static void list(Optional<List<Ace>> entries, StringBuilder out) {
    entries.ifPresentOrElse(
        list -> list.forEach(ace -> out.append(text(ace))), () -> out.append("NO_ACCESS_CONTROL"));
  }
}
