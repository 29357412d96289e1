package org.sobercompass.sources.live;

import com.unboundid.ldap.sdk.Entry;
import com.unboundid.ldap.sdk.ExtendedResult;
import com.unboundid.ldap.sdk.LDAPConnection;
import com.unboundid.ldap.sdk.LDAPConnectionOptions;
import com.unboundid.ldap.sdk.LDAPException;
import com.unboundid.ldap.sdk.ResultCode;
import com.unboundid.ldap.sdk.RootDSE;
import com.unboundid.ldap.sdk.SearchScope;
import com.unboundid.ldap.sdk.extensions.StartTLSExtendedRequest;
import com.unboundid.ldap.sdk.extensions.WhoAmIExtendedRequest;
import com.unboundid.ldap.sdk.extensions.WhoAmIExtendedResult;
import com.unboundid.ldap.sdk.schema.Schema;
import com.unboundid.util.ssl.HostNameSSLSocketVerifier;
import com.unboundid.util.ssl.JVMDefaultTrustManager;
import com.unboundid.util.ssl.PEMFileTrustManager;
import com.unboundid.util.ssl.SSLUtil;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.GeneralSecurityException;
import java.security.KeyStoreException;
import java.util.Optional;
import javax.net.ssl.X509TrustManager;
import org.sobercompass.core.problem.BadInputException;
import org.sobercompass.core.problem.OutsideException;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.sources.Secret;
import org.sobercompass.sources.directory.DirectorySchema;

/** An open connection to a directory, bound as asked. Not thread-safe. */
public final class LdapSession implements AutoCloseable {
  private static final int CONNECT_MILLIS = 10_000;

  private final LdapAccess access;
  private final LDAPConnection connection;

  private LdapSession(LdapAccess access, LDAPConnection connection) {
    this.access = access;
    this.connection = connection;
  }

  /**
   * Connects, protects and binds.
   *
   * @throws OutsideException when any of the three fails, with what mends it
   */
  public static LdapSession open(LdapAccess access, Secret.Origins origins) {
    String password = access.password().map(secret -> secret.read(origins)).orElse("");
    LDAPConnection connection = connect(access);
    try {
      if (access.tls() == LdapAccess.Tls.START) {
        ExtendedResult result =
            connection.processExtendedOperation(
                new StartTLSExtendedRequest(ssl(access).createSSLContext()));
        if (!result.getResultCode().equals(ResultCode.SUCCESS)) {
          throw new LDAPException(result);
        }
      }
    } catch (LDAPException e) {
      connection.close();
      throw LdapFailure.of(access, LdapFailure.START_TLS, e);
    } catch (GeneralSecurityException e) {
      connection.close();
      throw new IllegalStateException(e);
    }
    try {
      if (access.bindDn().isPresent()) {
        connection.bind(access.bindDn().get(), password);
      }
      return new LdapSession(access, connection);
    } catch (LDAPException e) {
      connection.close();
      throw LdapFailure.of(access, "sign in", e);
    }
  }

  private static LDAPConnection connect(LdapAccess access) {
    LDAPConnectionOptions options = new LDAPConnectionOptions();
    options.setConnectTimeoutMillis(CONNECT_MILLIS);
    options.setResponseTimeoutMillis(access.patience().toMillis());
    options.setFollowReferrals(false);
    options.setSSLSocketVerifier(new HostNameSSLSocketVerifier(true, false));
    try {
      return access.tls() == LdapAccess.Tls.LDAPS
          ? new LDAPConnection(
              ssl(access).createSSLSocketFactory(), options, access.host(), access.port())
          : new LDAPConnection(options, access.host(), access.port());
    } catch (LDAPException e) {
      throw LdapFailure.of(access, "connect", e);
    } catch (GeneralSecurityException e) {
      throw new IllegalStateException(e);
    }
  }

  private static SSLUtil ssl(LdapAccess access) {
    X509TrustManager trust =
        access.ca().map(LdapSession::trust).orElseGet(JVMDefaultTrustManager::getInstance);
    return new SSLUtil(trust);
  }

  private static X509TrustManager trust(Path ca) {
    try {
      if (Files.isReadable(ca)) {
        return new PEMFileTrustManager(ca.toFile());
      }
      throw new BadInputException(
          Problem.error(
              Place.of(ca.toString()), "there is no such file", "certificates in PEM form"));
    } catch (KeyStoreException e) {
      throw new BadInputException(
          Problem.error(
              Place.of(ca.toString()),
              "the file holds no certificate",
              "certificates in PEM form"));
    }
  }

  /** How it was opened. */
  public LdapAccess access() {
    return access;
  }

  /** What the directory says of itself. */
  public RootEntry root() {
    try {
      RootDSE root = connection.getRootDSE();
      if (root == null) {
        throw new OutsideException(
            Problem.error(
                Place.of(access.name()).entry(access.address()),
                "the server does not show its root entry",
                "the right to read it, or bases: in the workspace"));
      }
      return RootEntry.of(root);
    } catch (LDAPException e) {
      throw LdapFailure.of(access, "read the root entry", e);
    }
  }

  /** The schema it publishes (RFC 4512 section 4.4); empty when it may not be read. */
  public Optional<DirectorySchema> schema() {
    try {
      String dn = Schema.getSubschemaSubentryDN(connection, "");
      Entry entry =
          dn == null
              ? null
              : connection.searchForEntry(
                  dn, SearchScope.BASE, "(objectClass=*)", Schema.SCHEMA_REQUEST_ATTRS);
      if (entry == null || !entry.hasAttribute("attributeTypes")) {
        return Optional.empty();
      }
      Problems told = new Problems();
      Place place = Place.of(access.name()).entry(dn);
      Optional<DirectorySchema> schema = DirectorySchema.of(entry, place, told);
      told.throwIfErrors();
      return schema;
    } catch (LDAPException e) {
      if (LdapFailure.isConnection(e)) {
        throw LdapFailure.of(access, "read the schema", e);
      }
      return Optional.empty();
    }
  }

  /** As whom the server knows us (RFC 4532), else the name we bound with. */
  public String identity() {
    String asked = access.bindDn().orElse("anonymous");
    try {
      WhoAmIExtendedResult result =
          (WhoAmIExtendedResult) connection.processExtendedOperation(new WhoAmIExtendedRequest());
      return Optional.ofNullable(result.getAuthorizationID())
          .filter(id -> !id.isEmpty() && !id.equals("dn:"))
          .orElse(asked);
    } catch (LDAPException e) {
      return asked;
    }
  }

  /**
   * Makes sure that an entry is there and may be read.
   *
   * @throws OutsideException when not
   */
  public void need(String dn) {
    try {
      connection.search(dn, SearchScope.BASE, "(objectClass=*)", "1.1");
    } catch (LDAPException e) {
      throw LdapFailure.of(access, "see " + dn, e);
    }
  }

  LDAPConnection connection() {
    return connection;
  }

  @Override
  public void close() {
    connection.close();
  }
}
