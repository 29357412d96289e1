package org.sobercompass.sources.directory;

import com.unboundid.ldap.sdk.DN;
import com.unboundid.ldap.sdk.LDAPException;
import java.util.Locale;

/**
 * Brings a DN into its canonical form (RFC 4514, values by caseIgnoreMatch): equal for equal DNs.
 * The usual plain spelling takes a short way; the LDAP library does the rest.
 */
public final class DnForm {
  private DnForm() {}

  /** The canonical form; a text that is no DN is folded to lower case and never equals one. */
  public static String of(String dn) {
    if (isPlain(dn)) {
      return dn.toLowerCase(Locale.ROOT);
    }
    try {
      return new DN(dn).toNormalizedString();
    } catch (LDAPException e) {
      return "?" + dn.toLowerCase(Locale.ROOT);
    }
  }

  /** Whether a text is a DN at all. */
  public static boolean isDn(String text) {
    return text.indexOf('=') > 0 && DN.isValidDN(text);
  }

  /** ASCII without escapes, quotes, several values, or spaces that do not count. */
  private static boolean isPlain(String dn) {
    char before = ',';
    for (int i = 0; i < dn.length(); i++) {
      char c = dn.charAt(i);
      boolean special = c >= 0x7f || c < ' ' || "\\\"+<>;#".indexOf(c) >= 0;
      boolean looseSpace = c == ' ' && (before == ' ' || before == ',' || before == '=');
      boolean spaceBefore = (c == ',' || c == '=') && before == ' ';
      if (special || looseSpace || spaceBefore) {
        return false;
      }
      before = c;
    }
    return before != ' ' && dn.indexOf('=') > 0;
  }
}
