package org.sobercompass.sources.directory;

import java.io.BufferedOutputStream;
import java.io.ByteArrayOutputStream;
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
   * go on with it too, and comments. O(bytes), by blocks; memory grows with the longest name only.
   */
  public static void withoutThem(InputStream ldif, OutputStream to) throws IOException {
    OutputStream out = new BufferedOutputStream(to, 1 << 16);
    Copy copy = new Copy(out);
    byte[] block = new byte[1 << 16];
    for (int count = ldif.read(block); count >= 0; count = ldif.read(block)) {
      copy.take(block, count);
    }
    copy.end();
    out.flush();
  }

  /** Where the next byte stands: at the start of a line, in a name, at its end, or behind it. */
  private enum At {
    START,
    NAME,
    NAME_END,
    VALUE
  }

  /** Takes LDIF block by block. A line ends with LF, CR LF, or, as lenient readers have it, CR. */
  private static final class Copy {
    private final OutputStream out;
    private final ByteArrayOutputStream name = new ByteArrayOutputStream();
    private At at = At.START;
    private boolean leftOut;
    private boolean afterReturn;
    private String lineEnd = "";

    Copy(OutputStream out) {
      this.out = out;
    }

    void take(byte[] block, int count) throws IOException {
      int i = 0;
      while (i < count) {
        if (at == At.VALUE) {
          int from = i;
          while (i < count && !isEnd(block[i])) {
            i++;
          }
          if (i < count) {
            afterReturn = block[i++] == '\r';
            at = At.START;
          }
          if (!leftOut) {
            out.write(block, from, i - from);
          }
        } else if (one(block[i])) {
          i++;
        }
      }
    }

    /** Whether the byte is done with; if not, it is looked at again in the next state. */
    private boolean one(byte b) throws IOException {
      return switch (at) {
        case START -> start(b);
        case NAME -> inName(b);
        default -> nameEnd(b);
      };
    }

    private boolean start(byte b) throws IOException {
      boolean sameEnd = afterReturn && b == '\n';
      afterReturn = false;
      if (sameEnd || b == ' ') {
        at = sameEnd ? At.START : At.VALUE;
        if (!leftOut) {
          out.write(b);
        }
        return true;
      }
      name.reset();
      at = At.NAME;
      return false;
    }

    private boolean inName(byte b) throws IOException {
      if (isEnd(b)) {
        afterReturn = b == '\r';
        lineEnd = afterReturn ? "\r" : "\n";
        at = At.NAME_END;
      } else if (b == ':' || b == ';' || name.size() > LONGEST) {
        decide();
        at = At.VALUE;
        return false;
      } else {
        name.write(b);
      }
      return true;
    }

    /** A line that ends within the name: what follows a space goes on with it. */
    private boolean nameEnd(byte b) throws IOException {
      if (afterReturn && b == '\n') {
        afterReturn = false;
        lineEnd = "\r\n";
      } else if (b == ' ') {
        at = At.NAME;
      } else {
        end();
        at = At.START;
        afterReturn = false;
        return false;
      }
      return true;
    }

    private void decide() throws IOException {
      String plain = name.toString(StandardCharsets.ISO_8859_1).toLowerCase(Locale.ROOT);
      leftOut = isSecret(plain) || plain.startsWith("#");
      if (!leftOut) {
        name.writeTo(out);
      }
    }

    /** What was held back is written, at the end of a line without a value or of the file. */
    void end() throws IOException {
      if (at == At.NAME || at == At.NAME_END) {
        decide();
        if (!leftOut && at == At.NAME_END) {
          out.write(lineEnd.getBytes(StandardCharsets.US_ASCII));
        }
      }
    }

    private static boolean isEnd(byte b) {
      return b == '\n' || b == '\r';
    }
  }
}
