package org.sobercompass.sources.live;

import com.unboundid.ldap.sdk.LDAPException;
import com.unboundid.ldap.sdk.ResultCode;
import java.net.ConnectException;
import java.net.UnknownHostException;
import java.security.cert.CertificateExpiredException;
import javax.net.ssl.SSLException;
import org.jspecify.annotations.Nullable;
import org.sobercompass.core.problem.OutsideException;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.problem.Problem;

/** Says what went wrong with a directory, and what mends it. */
final class LdapFailure {
  /** What is done when StartTLS fails. */
  static final String START_TLS = "start TLS";

  private LdapFailure() {}

  static OutsideException of(LdapAccess access, String doing, LDAPException e) {
    Place place = Place.of(access.name()).entry(access.address());
    String[] said =
        isConnection(e)
            ? connection(access, e)
            : doing.equals(START_TLS) ? notOffered(e) : result(access, e);
    return new OutsideException(Problem.error(place, "cannot " + doing + ": " + said[0], said[1]));
  }

  /** Whether a new connection may mend it. */
  static boolean isConnection(LDAPException e) {
    return e.getResultCode().equals(ResultCode.SERVER_DOWN)
        || e.getResultCode().equals(ResultCode.CONNECT_ERROR)
        || e.getResultCode().equals(ResultCode.DECODING_ERROR)
        || e.getResultCode().equals(ResultCode.LOCAL_ERROR);
  }

  private static String[] connection(LdapAccess access, LDAPException e) {
    String text = String.valueOf(e.getMessage());
    if (has(e, text, CertificateExpiredException.class)
        || text.contains("outside of the validity window")) {
      return said(
          "its certificate has expired or does not hold yet", "a new certificate on the server");
    }
    if (text.contains("unable to find valid certification path")
        || text.contains("cannot be trusted")
        || text.contains("PKIX path building failed")) {
      return said(
          "its certificate is signed by nobody known here",
          "ca: and the file (PEM) with the certificate of its authority");
    }
    if (text.contains("hostname") || text.contains("subject alternative name")) {
      return said(
          "its certificate is for another name than " + access.host(),
          "the name that stands in the certificate, or a certificate for this one");
    }
    if (text.contains("Unsupported or unrecognized SSL message")
        || text.contains("Remote host terminated the handshake")) {
      return said(
          "the port does not speak TLS from the start",
          "ldap:// (for StartTLS), or the port for ldaps, usually 636");
    }
    if (has(e, text, SSLException.class)) {
      return said("TLS failed (" + shorten(innermost(e)) + ")", "a certificate and TLS in order");
    }
    if (has(e, text, UnknownHostException.class)) {
      return said(
          "there is no host " + access.host(), "a name that can be resolved, or an address");
    }
    if (has(e, text, ConnectException.class)) {
      return said(
          "nothing listens at " + access.host() + " port " + access.port(),
          "the server running, its port, and no firewall between");
    }
    if (text.contains("imeout") || text.contains("timed out")) {
      return slow(access);
    }
    return said(
        "the connection ended (" + shorten(text) + ")", "a server that stays up; try again");
  }

  private static String innermost(LDAPException e) {
    Throwable at = e;
    for (int depth = 0; at.getCause() != null && depth < 20; depth++) {
      at = at.getCause();
    }
    return String.valueOf(at.getMessage());
  }

  private static String[] slow(LdapAccess access) {
    return said(
        "no answer came within " + access.patience().toSeconds() + " seconds",
        "a faster answer, narrower bases, or a longer patience:");
  }

  private static String[] notOffered(LDAPException e) {
    return said(
        "the server does not offer it (" + shorten(String.valueOf(e.getMessage())) + ")",
        "StartTLS set up on the server, ldaps://, or plain: yes if it must be");
  }

  private static String[] result(LdapAccess access, LDAPException e) {
    ResultCode code = e.getResultCode();
    String who = access.bindDn().orElse("an anonymous connection");
    if (code.equals(ResultCode.INVALID_CREDENTIALS)) {
      return said("the name or the password is wrong for " + who, "the right DN and password");
    }
    if (code.equals(ResultCode.NO_SUCH_OBJECT)) {
      String matched = e.getMatchedDN();
      return said(
          "there is no such base, or " + who + " may not see it",
          matched == null || matched.isEmpty()
              ? "a base that exists"
              : "a base that exists; the nearest above is " + matched);
    }
    if (code.equals(ResultCode.INSUFFICIENT_ACCESS_RIGHTS)) {
      return said(who + " may not read it", "the right to read, for " + who);
    }
    if (code.equals(ResultCode.SIZE_LIMIT_EXCEEDED)
        || code.equals(ResultCode.ADMIN_LIMIT_EXCEEDED)) {
      return said(
          "the server gives " + who + " only a part (its size limit)",
          "a higher size limit for " + who + ", or narrower bases");
    }
    if (code.equals(ResultCode.TIMEOUT)) {
      return slow(access);
    }
    if (code.equals(ResultCode.TIME_LIMIT_EXCEEDED)) {
      return said("the server's time limit was hit", "a higher time limit, or narrower bases");
    }
    if (code.equals(ResultCode.CONFIDENTIALITY_REQUIRED)
        || code.equals(ResultCode.STRONG_AUTH_REQUIRED)) {
      return said("the server asks for TLS", "ldaps://, or ldap:// without plain: yes");
    }
    if (code.equals(ResultCode.INAPPROPRIATE_AUTHENTICATION)
        || code.equals(ResultCode.OPERATIONS_ERROR)
        || code.equals(ResultCode.UNWILLING_TO_PERFORM)) {
      return said(
          "the server refuses " + who + " (" + shorten(String.valueOf(e.getMessage())) + ")",
          "a bind name and password");
    }
    return said(
        "the server said " + code.getName() + " (" + shorten(String.valueOf(e.getMessage())) + ")",
        "a server that answers");
  }

  private static boolean has(LDAPException e, String text, Class<? extends Throwable> kind) {
    @Nullable Throwable cause = e;
    for (int depth = 0; cause != null && depth < 20; depth++) {
      if (kind.isInstance(cause)) {
        return true;
      }
      cause = cause.getCause();
    }
    return text.contains(kind.getSimpleName());
  }

  private static String[] said(String what, String expected) {
    return new String[] {what, expected};
  }

  private static String shorten(String text) {
    String flat = text.replaceAll("\\s+", " ");
    return flat.length() <= 160 ? flat : flat.substring(0, 160) + "…";
  }
}
