package org.sobercompass.core.descriptor;

import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.HexFormat;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.UUID;
import org.sobercompass.core.problem.Problem;

/**
 * Descriptors as text ([MS-DTYP] 2.5.1), both ways. Conditions are kept as text and not judged.
 * Thread-safe.
 */
public final class Sddl {
  /** Rights by their two letters, single bits first, so that text is made of them. */
  static final Map<String, Integer> RIGHTS = new LinkedHashMap<>();

  /** Flags of entries by their two letters. */
  static final Map<String, Integer> FLAGS = new LinkedHashMap<>();

  static {
    RIGHTS.put("CC", DsRights.CREATE_CHILD);
    RIGHTS.put("DC", DsRights.DELETE_CHILD);
    RIGHTS.put("LC", DsRights.LIST);
    RIGHTS.put("SW", DsRights.SELF);
    RIGHTS.put("RP", DsRights.READ_PROPERTY);
    RIGHTS.put("WP", DsRights.WRITE_PROPERTY);
    RIGHTS.put("DT", DsRights.DELETE_TREE);
    RIGHTS.put("LO", DsRights.LIST_OBJECT);
    RIGHTS.put("CR", DsRights.CONTROL_ACCESS);
    RIGHTS.put("SD", DsRights.DELETE);
    RIGHTS.put("RC", DsRights.READ_CONTROL);
    RIGHTS.put("WD", DsRights.WRITE_DAC);
    RIGHTS.put("WO", DsRights.WRITE_OWNER);
    RIGHTS.put("GA", DsRights.GENERIC_ALL);
    RIGHTS.put("GX", DsRights.GENERIC_EXECUTE);
    RIGHTS.put("GW", DsRights.GENERIC_WRITE);
    RIGHTS.put("GR", DsRights.GENERIC_READ);
    RIGHTS.put("FA", 0x1f01ff);
    RIGHTS.put("FR", 0x120089);
    RIGHTS.put("FW", 0x120116);
    RIGHTS.put("FX", 0x1200a0);
    RIGHTS.put("KA", 0xf003f);
    RIGHTS.put("KR", 0x20019);
    RIGHTS.put("KW", 0x20006);
    RIGHTS.put("KX", 0x20019);
    FLAGS.put("OI", Ace.OBJECTS);
    FLAGS.put("CI", Ace.CHILDREN);
    FLAGS.put("NP", Ace.NEXT_ONLY);
    FLAGS.put("IO", Ace.BELOW_ONLY);
    FLAGS.put("ID", Ace.INHERITED);
    FLAGS.put("SA", 0x40);
    FLAGS.put("FA", 0x80);
  }

  private final String text;
  private final Optional<String> domain;
  private int at;

  private Sddl(String text, Optional<String> domain) {
    this.text = text;
    this.domain = domain;
  }

  /**
   * Reads SDDL.
   *
   * @param domain the SID of the domain, for letters that stand for one of its trustees
   * @throws MalformedException with the column
   */
  public static Descriptor read(String text, Optional<String> domain) throws MalformedException {
    return new Sddl(text, domain).descriptor();
  }

  /**
   * Reads one entry of a list, in brackets.
   *
   * @throws MalformedException with the column
   */
  public static Ace readEntry(String text, Optional<String> domain) throws MalformedException {
    Sddl one = new Sddl(text, domain);
    if (!text.startsWith("(")) {
      throw one.bad("an entry stands in brackets", "(type;flags;rights;object;inherited;trustee)");
    }
    one.at = 1;
    Ace ace = one.entry();
    if (one.at < text.length()) {
      throw one.bad("something follows the entry", "one entry");
    }
    return ace;
  }

  private MalformedException bad(String what, String expected) {
    return new MalformedException(at + 1, what, expected);
  }

  private Descriptor descriptor() throws MalformedException {
    int control = Descriptor.SELF_RELATIVE;
    Optional<String> owner = Optional.empty();
    Optional<String> group = Optional.empty();
    Optional<List<Ace>> dacl = Optional.empty();
    Optional<List<Ace>> sacl = Optional.empty();
    String seen = "";
    while (at < text.length()) {
      char part = text.charAt(at);
      if (at + 1 >= text.length() || text.charAt(at + 1) != ':' || "OGDS".indexOf(part) < 0) {
        throw bad("found " + quote(part), "O:, G:, D: or S:");
      }
      if (seen.indexOf(part) >= 0) {
        throw bad(part + ": stands twice", "each part once");
      }
      seen += part;
      at += 2;
      switch (part) {
        case 'O' -> owner = Optional.of(trustee(""));
        case 'G' -> group = Optional.of(trustee(""));
        case 'D' -> {
          int flags = listFlags();
          control |= flags | Descriptor.DACL_PRESENT;
          dacl = noList() ? Optional.empty() : Optional.of(entries());
        }
        default -> {
          int flags = listFlags();
          control |= Descriptor.SACL_PRESENT;
          control |= (flags & Descriptor.DACL_PROTECTED) != 0 ? Descriptor.SACL_PROTECTED : 0;
          control |=
              (flags & Descriptor.DACL_AUTO_INHERITED) != 0 ? Descriptor.SACL_AUTO_INHERITED : 0;
          sacl = noList() ? Optional.empty() : Optional.of(entries());
        }
      }
    }
    return new Descriptor(control, owner, group, dacl, sacl);
  }

  private boolean noList() {
    boolean none = text.startsWith("NO_ACCESS_CONTROL", at);
    at += none ? "NO_ACCESS_CONTROL".length() : 0;
    return none;
  }

  private int listFlags() {
    int flags = 0;
    while (at < text.length()) {
      if (text.startsWith("P", at)) {
        flags |= Descriptor.DACL_PROTECTED;
        at += 1;
      } else if (text.startsWith("AI", at)) {
        flags |= Descriptor.DACL_AUTO_INHERITED;
        at += 2;
      } else if (text.startsWith("AR", at)) {
        flags |= 0x0100;
        at += 2;
      } else {
        return flags;
      }
    }
    return flags;
  }

  private List<Ace> entries() throws MalformedException {
    List<Ace> entries = new ArrayList<>();
    while (at < text.length() && text.charAt(at) == '(') {
      at++;
      entries.add(entry());
    }
    return entries;
  }

  private Ace entry() throws MalformedException {
    int begin = at;
    String letters = field();
    AceType type = AceType.of(letters).orElse(AceType.UNKNOWN);
    if (type == AceType.UNKNOWN) {
      at = begin;
      throw bad("there is no type of entry " + quote(letters), "A, D, OA, OD or another type");
    }
    int flags = flags(field());
    int mask = mask(field());
    Optional<UUID> object = guid(field());
    Optional<UUID> inherited = guid(field());
    String trustee = trustee(";)");
    String data = "";
    if (at < text.length() && text.charAt(at) == ';') {
      at++;
      data = rest();
    }
    if (at >= text.length() || text.charAt(at) != ')') {
      throw bad("the entry does not end", ")");
    }
    at++;
    if (!type.isObject() && (object.isPresent() || inherited.isPresent())) {
      at = begin;
      throw bad("an entry of type " + letters + " names an object type", "OA or OD");
    }
    String hex = HexFormat.of().formatHex(data.getBytes(StandardCharsets.UTF_8));
    return new Ace(type, type.code(), flags, mask, object, inherited, trustee, hex);
  }

  /** The text up to the next semicolon, which is passed. */
  private String field() throws MalformedException {
    int end = text.indexOf(';', at);
    int close = text.indexOf(')', at);
    if (end < 0 || (close >= 0 && close < end)) {
      throw bad("the entry has too few parts", "type;flags;rights;object;inherited object;trustee");
    }
    String field = text.substring(at, end);
    at = end + 1;
    return field.strip();
  }

  /** A condition, to the bracket that closes the entry. */
  private String rest() throws MalformedException {
    int depth = 0;
    int begin = at;
    boolean quoted = false;
    while (at < text.length() && (quoted || depth > 0 || text.charAt(at) != ')')) {
      char c = text.charAt(at++);
      quoted ^= c == '"';
      depth += quoted ? 0 : c == '(' ? 1 : c == ')' ? -1 : 0;
    }
    if (at >= text.length()) {
      at = begin;
      throw bad("the condition does not end", "as many ) as (");
    }
    return text.substring(begin, at);
  }

  private int flags(String letters) throws MalformedException {
    int flags = 0;
    for (int i = 0; i < letters.length(); i += 2) {
      String two = letters.substring(i, Math.min(i + 2, letters.length()));
      Integer flag = FLAGS.get(two);
      if (flag == null) {
        at -= letters.length() - i + 1;
        throw bad("there is no flag " + quote(two), "one of " + String.join(", ", FLAGS.keySet()));
      }
      flags |= flag;
    }
    return flags;
  }

  private int mask(String written) throws MalformedException {
    try {
      if (written.startsWith("0x") || written.startsWith("0X")) {
        return Integer.parseUnsignedInt(written.substring(2), 16);
      }
      if (!written.isEmpty() && Character.isDigit(written.charAt(0))) {
        return Integer.parseUnsignedInt(written);
      }
    } catch (NumberFormatException e) {
      at -= written.length() + 1;
      throw bad(quote(written) + " is no number of rights", "32 bits");
    }
    int mask = 0;
    for (int i = 0; i < written.length(); i += 2) {
      String two = written.substring(i, Math.min(i + 2, written.length()));
      Integer right = RIGHTS.get(two);
      if (right == null) {
        at -= written.length() - i + 1;
        throw bad(
            "there is no right " + quote(two), "one of " + String.join(", ", RIGHTS.keySet()));
      }
      mask |= right;
    }
    return mask;
  }

  private Optional<UUID> guid(String written) throws MalformedException {
    if (written.isEmpty()) {
      return Optional.empty();
    }
    if (!written.matches("[0-9a-fA-F]{8}(-[0-9a-fA-F]{4}){3}-[0-9a-fA-F]{12}")) {
      at -= written.length() + 1;
      throw bad(quote(written) + " is no GUID", "as in bf967aba-0de6-11d0-a285-00aa003049e2");
    }
    return Optional.of(UUID.fromString(written));
  }

  /** A SID, or two letters, up to one of {@code ends} or the next part. */
  private String trustee(String ends) throws MalformedException {
    int begin = at;
    if (text.startsWith("S-", at)) {
      while (at < text.length()
          && ends.indexOf(text.charAt(at)) < 0
          && "S-0123456789xXabcdefABCDEF".indexOf(text.charAt(at)) >= 0
          && !(text.startsWith("D:", at) || text.startsWith("S:", at))) {
        at++;
      }
      String sid = text.substring(begin, at);
      if (!sid.matches("S-1-[0-9]{1,15}(-[0-9]{1,10}){0,15}")) {
        at = begin;
        throw bad(quote(sid) + " is no SID", "as in S-1-5-32-544");
      }
      return sid;
    }
    String letters = text.substring(at, Math.min(at + 2, text.length()));
    Optional<String> sid = SddlNames.sid(letters, domain);
    if (sid.isEmpty()) {
      throw bad(
          "there is no trustee " + quote(letters),
          SddlNames.isOfDomain(letters)
              ? "a full SID: whose domain is meant is not known"
              : "a SID, or two letters like BA");
    }
    at += 2;
    return sid.get();
  }

  private static String quote(Object text) {
    return Problem.quote(String.valueOf(text));
  }

  /** One entry as text. An unknown one is shown with its number and bytes. */
  public static String text(Ace ace) {
    return SddlText.text(ace);
  }

  /** A whole descriptor as text. */
  public static String text(Descriptor descriptor) {
    return SddlText.text(descriptor);
  }
}
