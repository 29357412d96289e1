package org.sobercompass.sources.directory;

import java.io.BufferedInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.util.Locale;
import java.util.Set;

/** Attributes that hold passwords and keys: never kept, whoever may read them. */
public final class Secrets {
  private static final Set<String> NAMES =
      Set.of(
          "userpassword",
          "authpassword",
          "pwdhistory",
          "unicodepwd",
          "ntpwdhistory",
          "lmpwdhistory",
          "dbcspwd",
          "supplementalcredentials",
          "sambantpassword",
          "sambalmpassword",
          "sambapasswordhistory",
          "krbprincipalkey",
          "msds-managedpassword",
          "mskds-rootkeydata",
          "trustauthincoming",
          "trustauthoutgoing",
          "initialauthincoming",
          "initialauthoutgoing",
          "currentvalue",
          "priorvalue",
          "olcrootpw",
          "olcdbbindpw",
          "userpkcs12",
          "krb5key",
          "ipanthash",
          "oathsecret",
          "radiussecret",
          "ms-mcs-admpwd",
          "mslaps-password",
          "mslaps-encryptedpassword",
          "mslaps-encryptedpasswordhistory",
          "mslaps-encrypteddsrmpassword",
          "msfve-recoverypassword",
          "msfve-keypackage",
          "msds-groupmsamembership-password");

  private static final int LONGEST = 200;

  private Secrets() {}

  /** Their names, lower case. */
  public static Set<String> names() {
    return NAMES;
  }

  /** Whether an attribute (lower case, without options) holds a secret. */
  public static boolean isSecret(String attribute) {
    return NAMES.contains(attribute);
  }

  /**
   * Copies LDIF (RFC 2849) without secrets: all lines of such an attribute are left out, those that
   * go on with it too, and comments. One pass over the bytes; memory grows with the longest name
   * only.
   */
  public static void withoutThem(InputStream ldif, OutputStream to) throws IOException {
    InputStream in = new BufferedInputStream(ldif, 1 << 16);
    StringBuilder name = new StringBuilder();
    boolean lineStart = true;
    boolean inName = false;
    boolean leftOut = false;
    for (int b = in.read(); b >= 0; b = in.read()) {
      if (lineStart && b != ' ') {
        leftOut = false;
        inName = true;
        name.setLength(0);
      }
      lineStart = b == '\n' || b == '\r';
      if (inName && lineStart && goesOn(in, b)) {
        lineStart = false;
      } else if (inName) {
        if (b == ':' || b == ';' || lineStart || name.length() > LONGEST) {
          String plain = name.toString().toLowerCase(Locale.ROOT);
          leftOut = isSecret(plain) || plain.startsWith("#");
          inName = false;
          if (!leftOut) {
            to.write(name.toString().getBytes(StandardCharsets.ISO_8859_1));
            to.write(b);
          }
        } else {
          name.append((char) b);
        }
      } else if (!leftOut) {
        to.write(b);
      }
    }
    if (inName) {
      to.write(name.toString().getBytes(StandardCharsets.ISO_8859_1));
    }
  }

  /** Whether a line that ends with this byte goes on in the next; then its first space is taken. */
  private static boolean goesOn(InputStream in, int end) throws IOException {
    in.mark(2);
    int next = in.read();
    if (end == '\r' && next == '\n') {
      next = in.read();
    }
    if (next == ' ') {
      return true;
    }
    in.reset();
    return false;
  }
}
