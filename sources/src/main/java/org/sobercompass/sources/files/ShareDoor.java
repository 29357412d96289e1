package org.sobercompass.sources.files;

import com.hierynomus.msdtyp.SecurityDescriptor;
import com.hierynomus.msdtyp.SecurityInformation;
import com.hierynomus.mserref.NtStatus;
import com.hierynomus.msfscc.FileAttributes;
import com.hierynomus.msfscc.fileinformation.FileIdBothDirectoryInformation;
import com.hierynomus.mssmb2.SMBApiException;
import com.hierynomus.protocol.commons.buffer.Buffer;
import com.hierynomus.smb.SMBBuffer;
import com.hierynomus.smbj.SMBClient;
import com.hierynomus.smbj.SmbConfig;
import com.hierynomus.smbj.auth.AuthenticationContext;
import com.hierynomus.smbj.common.SMBRuntimeException;
import com.hierynomus.smbj.connection.Connection;
import com.hierynomus.smbj.session.Session;
import com.hierynomus.smbj.share.DiskShare;
import com.hierynomus.smbj.share.Share;
import java.io.IOException;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.TimeUnit;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.sobercompass.core.descriptor.Descriptor;
import org.sobercompass.core.descriptor.MalformedException;
import org.sobercompass.core.problem.OutsideException;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.sources.Collecting;
import org.sobercompass.sources.Secret;
import org.sobercompass.sources.descriptor.DescriptorCodec;

/**
 * A share of a file server, signed in to over SMB ([MS-SMB2]) with a name and a password. Paths are
 * those of the workspace: they begin with a slash at the top of the tree. Not thread-safe.
 */
final class ShareDoor implements AutoCloseable {
  private static final Pattern ADDRESS =
      Pattern.compile("smb://(\\[[^\\]]+\\]|[^/:@\\[\\]]+)(?::(\\d{1,5}))?/([^/]+)((?:/[^/]+)*)/?");
  private static final String EXPECTED = "smb://HOST/SHARE or smb://HOST/SHARE/FOLDER";
  private static final int PORT = 445;
  private static final int PATIENCE_SECONDS = 60;
  private static final Set<NtStatus> ABSENT =
      EnumSet.of(
          NtStatus.STATUS_OBJECT_NAME_NOT_FOUND,
          NtStatus.STATUS_OBJECT_PATH_NOT_FOUND,
          NtStatus.STATUS_OBJECT_NAME_INVALID);
  private static final Set<SecurityInformation> READ =
      EnumSet.of(
          SecurityInformation.OWNER_SECURITY_INFORMATION,
          SecurityInformation.GROUP_SECURITY_INFORMATION,
          SecurityInformation.DACL_SECURITY_INFORMATION);

  private final String where;
  private final String identity;
  private final String folder;
  private final boolean plain;
  private final SMBClient client;
  private final Connection connection;
  private final DiskShare share;

  private ShareDoor(
      String where,
      String identity,
      String folder,
      boolean plain,
      SMBClient client,
      Connection connection,
      DiskShare share) {
    this.where = where;
    this.identity = identity;
    this.folder = folder;
    this.plain = plain;
    this.client = client;
    this.connection = connection;
    this.share = share;
  }

  /**
   * Signs in. What crosses is signed always, and encrypted unless it may cross in clear.
   *
   * @param as {@code DOMAIN\NAME}, {@code NAME@DOMAIN} or a name
   * @throws Collecting.Mistyped when what was typed cannot be meant
   * @throws OutsideException when the server is not there, or does not let us in
   */
  static ShareDoor open(
      String where,
      Optional<String> as,
      Optional<Secret> secret,
      boolean plain,
      Secret.Origins origins) {
    Matcher address = ADDRESS.matcher(where);
    if (Secret.isIn(where) || !address.matches()) {
      throw new Collecting.Mistyped(
          Problem.quote(where) + " is no address of a share; expected " + EXPECTED);
    }
    String name =
        as.filter(text -> !text.isEmpty())
            .orElseThrow(
                () -> new Collecting.Mistyped("a share is opened as somebody; expected --as NAME"));
    String password =
        secret
            .orElseThrow(
                () ->
                    new Collecting.Mistyped(
                        "a share is opened with a password; expected --password-env or"
                            + " --password-file"))
            .read(origins);
    SmbConfig config =
        SmbConfig.builder()
            .withSigningRequired(true)
            .withEncryptData(!plain)
            .withTimeout(PATIENCE_SECONDS, TimeUnit.SECONDS)
            .withSoTimeout(PATIENCE_SECONDS, TimeUnit.SECONDS)
            .build();
    SMBClient client = new SMBClient(config);
    try {
      return signedIn(client, where, address, name, password, plain);
    } catch (RuntimeException e) {
      client.close();
      throw e;
    }
  }

  private static ShareDoor signedIn(
      SMBClient client,
      String where,
      Matcher address,
      String name,
      String password,
      boolean plain) {
    String host = address.group(1).replaceAll("[\\[\\]]", "");
    int port = address.group(2) == null ? PORT : Integer.parseInt(address.group(2));
    try {
      Connection connection = client.connect(host, port);
      if (!plain && !connection.getConnectionContext().supportsEncryption()) {
        throw new OutsideException(
            Problem.error(
                Place.of(where),
                "the server does not encrypt what crosses",
                "SMB 3 with encryption, or --plain if it must be"));
      }
      Session session = connection.authenticate(who(name, password));
      if (session.isGuest() || session.isAnonymous()) {
        throw new OutsideException(
            Problem.error(
                Place.of(where),
                "the server does not know " + name + ", and took us for a guest",
                "somebody whom it knows"));
      }
      Share share = session.connectShare(address.group(3));
      if (!(share instanceof DiskShare disk)) {
        throw new OutsideException(
            Problem.error(Place.of(where), "there are no folders in this share", EXPECTED));
      }
      return new ShareDoor(where, name, address.group(4), plain, client, connection, disk);
    } catch (SMBApiException e) {
      throw refused(where, address.group(3), name, e.getStatus());
    } catch (SMBRuntimeException | IOException e) {
      throw new OutsideException(
          Problem.error(
              Place.of(where),
              "the file server is not reached: " + e.getMessage(),
              "a host that listens for SMB at this address"));
    }
  }

  private static OutsideException refused(
      String where, String share, String name, NtStatus status) {
    String[] said =
        switch (status) {
          case STATUS_LOGON_FAILURE ->
              new String[] {
                "the name or the password is wrong for " + name, "the right name and password"
              };
          case STATUS_BAD_NETWORK_NAME ->
              new String[] {"there is no share " + share, "one that the server has"};
          case STATUS_ACCESS_DENIED ->
              new String[] {
                name + " may not open the share " + share, "somebody whom its list lets in"
              };
          default -> new String[] {"the server refuses " + name + ": " + status, EXPECTED};
        };
    return new OutsideException(Problem.error(Place.of(where), said[0], said[1]));
  }

  private static AuthenticationContext who(String name, String password) {
    int backslash = name.indexOf('\\');
    int at = name.indexOf('@');
    String domain =
        backslash >= 0 ? name.substring(0, backslash) : at > 0 ? name.substring(at + 1) : "";
    String plain = backslash >= 0 ? name.substring(backslash + 1) : name;
    String user = backslash < 0 && at > 0 ? name.substring(0, at) : plain;
    return new AuthenticationContext(user, password.toCharArray(), domain);
  }

  /** As whom. */
  String identity() {
    return identity;
  }

  /** Where it is and how the way there is protected, in words. */
  String reached() {
    var context = connection.getConnectionContext();
    boolean encrypted = !plain && context.supportsEncryption();
    return where + ", " + dialect() + (encrypted ? ", encrypted" : ", signed, in clear");
  }

  /** As in SMB 3.1.1. */
  private String dialect() {
    String name = connection.getNegotiatedProtocol().getDialect().toString();
    return name.replaceFirst("_", " ").replace('_', '.');
  }

  private String path(String id) {
    String below = id.equals("/") ? "" : id;
    String whole = folder + below;
    return whole.isEmpty() ? "" : whole.substring(1).replace('/', '\\');
  }

  /**
   * The owner, group and list of a path; empty when there is no such path.
   *
   * @throws Refused when it may not be read
   * @throws OutsideException when the way there broke
   */
  Optional<Descriptor> read(String id) {
    try {
      SMBBuffer bytes = new SMBBuffer();
      share.getSecurityInfo(path(id), READ).write(bytes);
      return Optional.of(DescriptorCodec.read(bytes.getCompactData()));
    } catch (SMBApiException e) {
      if (ABSENT.contains(e.getStatus())) {
        return Optional.empty();
      }
      throw new Refused(e.getStatus().toString());
    } catch (MalformedException e) {
      throw new Refused("its list has a form that is not understood: " + e.getMessage());
    } catch (SMBRuntimeException e) {
      throw lost(e);
    }
  }

  /**
   * Sets the list of a path, and its owner and group where they are others.
   *
   * @throws Refused when the server refuses
   * @throws OutsideException when the way there broke; it may be set or not
   */
  void write(String id, Descriptor was, Descriptor is) {
    Set<SecurityInformation> what =
        EnumSet.of(
            SecurityInformation.DACL_SECURITY_INFORMATION,
            is.isProtected()
                ? SecurityInformation.PROTECTED_DACL_SECURITY_INFORMATION
                : SecurityInformation.UNPROTECTED_DACL_SECURITY_INFORMATION);
    if (!was.owner().equals(is.owner())) {
      what.add(SecurityInformation.OWNER_SECURITY_INFORMATION);
    }
    if (!was.group().equals(is.group())) {
      what.add(SecurityInformation.GROUP_SECURITY_INFORMATION);
    }
    try {
      SMBBuffer bytes = new SMBBuffer(DescriptorCodec.write(is));
      share.setSecurityInfo(path(id), what, SecurityDescriptor.read(bytes));
    } catch (SMBApiException e) {
      throw new Refused(e.getStatus().toString());
    } catch (Buffer.BufferException e) {
      throw new IllegalStateException(e);
    } catch (SMBRuntimeException e) {
      throw lost(e);
    }
  }

  /**
   * What is in a folder.
   *
   * @param name its last name
   * @param isFolder whether it is a folder
   * @param isLink whether it leads elsewhere
   */
  record Item(String name, boolean isFolder, boolean isLink) {}

  /**
   * What is in a folder, in the order of the server.
   *
   * @throws Refused when it may not be listed
   */
  List<Item> list(String id) {
    try {
      List<Item> items = new ArrayList<>();
      for (FileIdBothDirectoryInformation one : share.list(path(id))) {
        long marks = one.getFileAttributes();
        String name = one.getFileName();
        if (!name.equals(".") && !name.equals("..")) {
          items.add(
              new Item(
                  name,
                  (marks & FileAttributes.FILE_ATTRIBUTE_DIRECTORY.getValue()) != 0,
                  (marks & FileAttributes.FILE_ATTRIBUTE_REPARSE_POINT.getValue()) != 0));
        }
      }
      return items;
    } catch (SMBApiException e) {
      throw new Refused(e.getStatus().toString());
    } catch (SMBRuntimeException e) {
      throw lost(e);
    }
  }

  private OutsideException lost(SMBRuntimeException e) {
    return new OutsideException(
        Problem.error(
            Place.of(where),
            "the way to the file server broke: " + e.getMessage(),
            "the same command again, once it is there"));
  }

  /** The server refused one thing; the message is its reason. */
  static final class Refused extends RuntimeException {
    private static final long serialVersionUID = 1L;

    private final String why;

    Refused(String why) {
      super(why);
      this.why = why;
    }

    String why() {
      return why;
    }
  }

  @Override
  public void close() {
    client.close();
  }
}
