package org.sobercompass.core.system.database;

import java.util.Optional;

/**
 * One item of an access privilege list as text: {@code grantee=privileges/grantor}, with a star
 * after each privilege that may be passed on; no grantee is PUBLIC. Names with other than letters,
 * digits and underscores stand in double quotes.
 *
 * @param grantee to whom, or empty for PUBLIC
 * @param mask the privileges and options, one bit each
 * @param grantor who gave it
 */
public record AclItem(String grantee, long mask, String grantor) {

  /** Parses one; empty when it is none. */
  public static Optional<AclItem> of(String text) {
    StringBuilder grantee = new StringBuilder();
    int at = name(text, 0, grantee);
    if (at >= text.length() || text.charAt(at) != '=') {
      return Optional.empty();
    }
    long mask = 0;
    char last = ' ';
    for (at++; at < text.length() && text.charAt(at) != '/'; at++) {
      char c = text.charAt(at);
      long bit = c == '*' ? DatabaseRights.bit(last) : DatabaseRights.bit(c);
      if (bit == 0) {
        return Optional.empty();
      }
      mask |= c == '*' ? DatabaseRights.option(last) : bit;
      last = c;
    }
    if (at >= text.length()) {
      return Optional.empty();
    }
    StringBuilder grantor = new StringBuilder();
    int end = name(text, at + 1, grantor);
    return end == text.length()
        ? Optional.of(new AclItem(grantee.toString(), mask, grantor.toString()))
        : Optional.empty();
  }

  /** The item as the server writes it. */
  public String text() {
    StringBuilder out = new StringBuilder(grantee.isEmpty() ? "" : name(grantee)).append('=');
    for (char letter : DatabaseRights.LETTERS.toCharArray()) {
      if ((mask & DatabaseRights.bit(letter)) != 0) {
        out.append(letter).append((mask & DatabaseRights.option(letter)) != 0 ? "*" : "");
      }
    }
    return out.append('/').append(name(grantor)).toString();
  }

  private static String name(String role) {
    return role.matches("[A-Za-z0-9_]+") ? role : '"' + role.replace("\"", "\"\"") + '"';
  }

  /** Reads a name, in quotes or not, and gives where it ends. */
  private static int name(String text, int from, StringBuilder into) {
    boolean quoted = false;
    int at = from;
    while (at < text.length()) {
      char c = text.charAt(at);
      boolean twice = at + 1 < text.length() && text.charAt(at + 1) == '"';
      if (c == '"' && quoted && twice) {
        into.append('"');
        at++;
      } else if (c == '"') {
        quoted = !quoted;
      } else if (!quoted && (c == '=' || c == '/')) {
        return at;
      } else {
        into.append(c);
      }
      at++;
    }
    return at;
  }
}
