package org.sobercompass.sources.directory;

import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;

/**
 * The usual kinds of directory: which classes are accounts, groups and organizational units, and
 * which attributes name them. All attribute and class names in lower case.
 *
 * @param id the word in a workspace
 * @param accounts classes of accounts
 * @param notAccounts classes that make an entry no account all the same
 * @param groups classes of groups
 * @param units classes of organizational units
 * @param ids immutable ids, the first that is there
 * @param logins login names of accounts, the first that is there
 * @param groupNames short names of groups
 * @param displays names for people
 */
public record DirectoryKind(
    String id,
    Set<String> accounts,
    Set<String> notAccounts,
    Set<String> groups,
    Set<String> units,
    List<String> ids,
    List<String> logins,
    List<String> groupNames,
    List<String> displays) {

  private static final Set<String> UNITS =
      Set.of(
          "organizationalunit",
          "organization",
          "domain",
          "dcobject",
          "country",
          "locality",
          "container",
          "builtindomain",
          "domaindns");

  /** inetOrgPerson (RFC 2798), groups of RFC 4519, posixAccount and posixGroup (RFC 2307). */
  public static final DirectoryKind STANDARD =
      new DirectoryKind(
          "standard",
          Set.of(
              "person",
              "inetorgperson",
              "organizationalperson",
              "posixaccount",
              "account",
              "simplesecurityobject"),
          Set.of("computer", "device"),
          Set.of("groupofnames", "groupofuniquenames", "posixgroup", "group", "groupofurls"),
          UNITS,
          List.of("entryuuid", "nsuniqueid"),
          List.of("uid", "cn"),
          List.of("cn"),
          List.of("displayname", "cn"));

  /** Accounts and groups of RFC 2307 only. */
  public static final DirectoryKind POSIX =
      new DirectoryKind(
          "posix",
          Set.of("posixaccount"),
          Set.of(),
          Set.of("posixgroup"),
          UNITS,
          List.of("entryuuid", "nsuniqueid"),
          List.of("uid"),
          List.of("cn"),
          List.of("displayname", "gecos", "cn"));

  /** Directories as [MS-ADTS] describes them; computers are accounts of their own kind there. */
  public static final DirectoryKind AD =
      new DirectoryKind(
          "ad",
          Set.of("user", "inetorgperson"),
          Set.of(),
          Set.of("group"),
          UNITS,
          List.of("objectguid", "objectsid"),
          List.of("samaccountname", "userprincipalname", "cn"),
          List.of("samaccountname", "cn"),
          List.of("displayname", "cn"));

  /** All kinds. */
  public static final List<DirectoryKind> ALL = List.of(STANDARD, POSIX, AD);

  /** The kind with this word. */
  public static Optional<DirectoryKind> of(String id) {
    return ALL.stream().filter(k -> k.id.equals(id.toLowerCase(Locale.ROOT))).findFirst();
  }

  /** The same with other login names. */
  public DirectoryKind withLogin(String attribute) {
    return new DirectoryKind(
        id,
        accounts,
        notAccounts,
        groups,
        units,
        ids,
        List.of(attribute.toLowerCase(Locale.ROOT)),
        groupNames,
        displays);
  }
}
