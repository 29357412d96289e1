package org.sobercompass.core.system.database;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * The default privileges of one role: what objects of one kind will have when that role makes them
 * (PostgreSQL 15 documentation, ALTER DEFAULT PRIVILEGES). Immutable.
 *
 * @param made the kind of object
 * @param maker the role that makes it, and so grants it
 * @param items whom it gives what
 */
public record DefaultPrivileges(Made made, String maker, List<AclItem> items) {
  private static final Pattern TEXT =
      Pattern.compile("new-([a-z]+) by \"((?:[^\"]|\"\")*)\": (.*)", Pattern.DOTALL);

  /** Copies. */
  public DefaultPrivileges {
    items = List.copyOf(items);
  }

  /** The kinds of object that there are default privileges for. */
  public enum Made {
    TABLE('r', "arwdDxt", ""),
    SEQUENCE('S', "rwU", ""),
    FUNCTION('f', "X", "X"),
    TYPE('T', "U", "U"),
    SCHEMA('n', "UC", "");

    private final char letter;
    private final String all;
    private final String everyone;

    Made(char letter, String all, String everyone) {
      this.letter = letter;
      this.all = all;
      this.everyone = everyone;
    }

    /** The one of a letter of {@code pg_default_acl}; a type where it is not known. */
    public static Made of(String letter) {
      for (Made made : values()) {
        if (letter.equals(String.valueOf(made.letter))) {
          return made;
        }
      }
      return TYPE;
    }

    /** The letter that {@code pg_default_acl} has for it. */
    public char letter() {
      return letter;
    }

    /** The word for one. */
    public String word() {
      return name().toLowerCase(Locale.ROOT);
    }

    /** All privileges that there are on one. */
    public long rights() {
      return mask(all);
    }
  }

  /**
   * One item of default privileges.
   *
   * @param made the kind of object
   * @param item who gets what, from the role that makes it
   */
  public record Item(Made made, AclItem item) {
    /** The item as steps name it: {@code new-table by "keeper": reader=r/keeper}. */
    public String text() {
      return "new-"
          + made.word()
          + " by \""
          + item.grantor().replace("\"", "\"\"")
          + "\": "
          + item.text();
    }

    /** In words. */
    String words() {
      return DatabaseRights.words(item.mask())
          + " on each new "
          + made.word()
          + " by "
          + item.grantor()
          + ", for "
          + (item.grantee().isEmpty() ? "everyone" : item.grantee());
    }
  }

  /** Whether a text is written as one item of default privileges, well or not. */
  static boolean isMeant(String text) {
    return text.startsWith("new-") && text.contains(" by ");
  }

  /** Parses one item; empty when it is none. */
  public static Optional<Item> item(String text) {
    Matcher matcher = TEXT.matcher(text);
    if (!matcher.matches()) {
      return Optional.empty();
    }
    for (Made made : Made.values()) {
      if (made.word().equals(matcher.group(1))) {
        String maker = matcher.group(2).replace("\"\"", "\"");
        return AclItem.of(matcher.group(3))
            .filter(item -> item.grantor().equals(maker))
            .map(item -> new Item(made, item));
      }
    }
    return Optional.empty();
  }

  /** Two items of one role for the same kind of object and grantee, as one. */
  static Optional<String> joined(String text, String other) {
    Optional<Item> one = item(text);
    Optional<Item> two = item(other);
    if (one.isEmpty() || two.isEmpty()) {
      return Optional.empty();
    }
    AclItem first = one.get().item();
    AclItem second = two.get().item();
    boolean alike =
        one.get().made() == two.get().made()
            && first.grantor().equals(second.grantor())
            && first.grantee().equals(second.grantee());
    return alike
        ? Optional.of(
            new Item(
                    one.get().made(),
                    new AclItem(first.grantee(), first.mask() | second.mask(), first.grantor()))
                .text())
        : Optional.empty();
  }

  /**
   * What the server gives where nothing else was said: the maker everything, and everyone what
   * section 5.7 says of the kind.
   */
  public static DefaultPrivileges usual(Made made, String maker) {
    List<AclItem> items = new ArrayList<>();
    items.add(new AclItem(maker, mask(made.all), maker));
    if (!made.everyone.isEmpty()) {
      items.add(new AclItem("", mask(made.everyone), maker));
    }
    return new DefaultPrivileges(made, maker, items);
  }

  private static long mask(String letters) {
    long mask = 0;
    for (char letter : letters.toCharArray()) {
      mask |= DatabaseRights.bit(letter);
    }
    return mask;
  }

  /** In words. */
  String words() {
    List<String> given = new ArrayList<>();
    for (AclItem item : items) {
      String whom = item.grantee().isEmpty() ? "everyone" : item.grantee();
      given.add(DatabaseRights.words(item.mask()) + " to " + whom);
    }
    return "a new " + made.word() + " by " + maker + ": " + String.join("; ", given);
  }
}
