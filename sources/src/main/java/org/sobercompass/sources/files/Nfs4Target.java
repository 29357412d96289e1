package org.sobercompass.sources.files;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.nio.file.attribute.AclEntry;
import java.nio.file.attribute.AclEntryFlag;
import java.nio.file.attribute.AclEntryPermission;
import java.nio.file.attribute.AclEntryType;
import java.nio.file.attribute.AclFileAttributeView;
import java.nio.file.attribute.GroupPrincipal;
import java.nio.file.attribute.PosixFileAttributeView;
import java.nio.file.attribute.UserPrincipal;
import java.nio.file.attribute.UserPrincipalLookupService;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.sobercompass.core.amendment.AmendmentRecord;
import org.sobercompass.core.amendment.Standing;
import org.sobercompass.core.descriptor.Ace;
import org.sobercompass.core.descriptor.AceType;
import org.sobercompass.core.problem.OutsideException;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.core.system.files.Nfs4Entry;
import org.sobercompass.sources.disk.OwnFiles;

/**
 * A tree of files whose NFSv4 lists Java's file API reads and sets ({@link AclFileAttributeView}).
 * It has no way to change a list only if it is still the same: it is read and compared just before.
 */
final class Nfs4Target extends HostTarget {
  private static final Map<Integer, AclEntryPermission> RIGHTS = rights();
  private static final Map<Integer, AclEntryFlag> FLAGS =
      Map.of(
          Ace.OBJECTS, AclEntryFlag.FILE_INHERIT,
          Ace.CHILDREN, AclEntryFlag.DIRECTORY_INHERIT,
          Ace.NEXT_ONLY, AclEntryFlag.NO_PROPAGATE_INHERIT,
          Ace.BELOW_ONLY, AclEntryFlag.INHERIT_ONLY);

  private final Path root;

  private Nfs4Target(Path root) {
    super("this machine, below " + root);
    this.root = root;
  }

  /**
   * Opens a tree.
   *
   * @throws OutsideException when Java gives no such lists there
   */
  static Nfs4Target open(Path root) {
    if (Files.getFileAttributeView(root, AclFileAttributeView.class) == null) {
      throw new OutsideException(
          Problem.error(
              Place.of(root.toString()),
              "Java's file API has no NFSv4 lists of this file system",
              "a system where it has, or the lists of the amendment set by the host's own tools"));
    }
    return new Nfs4Target(root);
  }

  /** Bits of a mask (RFC 7530 section 6.2.1.3.1) and what Java calls them. */
  private static Map<Integer, AclEntryPermission> rights() {
    Map<Integer, AclEntryPermission> rights = new LinkedHashMap<>();
    rights.put(0x1, AclEntryPermission.READ_DATA);
    rights.put(0x2, AclEntryPermission.WRITE_DATA);
    rights.put(0x4, AclEntryPermission.APPEND_DATA);
    rights.put(0x8, AclEntryPermission.READ_NAMED_ATTRS);
    rights.put(0x10, AclEntryPermission.WRITE_NAMED_ATTRS);
    rights.put(0x20, AclEntryPermission.EXECUTE);
    rights.put(0x40, AclEntryPermission.DELETE_CHILD);
    rights.put(0x80, AclEntryPermission.READ_ATTRIBUTES);
    rights.put(0x100, AclEntryPermission.WRITE_ATTRIBUTES);
    rights.put(0x1_0000, AclEntryPermission.DELETE);
    rights.put(0x2_0000, AclEntryPermission.READ_ACL);
    rights.put(0x4_0000, AclEntryPermission.WRITE_ACL);
    rights.put(0x8_0000, AclEntryPermission.WRITE_OWNER);
    rights.put(0x10_0000, AclEntryPermission.SYNCHRONIZE);
    return rights;
  }

  private Path path(AmendmentRecord record) {
    byte[] escaped = record.place().getBytes(StandardCharsets.UTF_8);
    String plain = new String(PathText.unescaped(escaped), StandardCharsets.UTF_8);
    return root.resolve(plain.substring(1));
  }

  private AclFileAttributeView view(AmendmentRecord record) {
    return Files.getFileAttributeView(
        path(record), AclFileAttributeView.class, LinkOption.NOFOLLOW_LINKS);
  }

  private Nfs4Text now(AmendmentRecord record) throws IOException {
    boolean owned = Nfs4Text.read(record.differences().get(0).added().get(0)).owner().isPresent();
    AclFileAttributeView view = view(record);
    List<Nfs4Entry> entries = new ArrayList<>();
    for (AclEntry entry : view.getAcl()) {
      entries.add(read(entry));
    }
    return new Nfs4Text(
        owned ? Optional.of(view.getOwner().getName()) : Optional.empty(),
        owned ? group(record).map(GroupPrincipal::getName) : Optional.empty(),
        entries);
  }

  private Optional<GroupPrincipal> group(AmendmentRecord record) throws IOException {
    PosixFileAttributeView view =
        Files.getFileAttributeView(
            path(record), PosixFileAttributeView.class, LinkOption.NOFOLLOW_LINKS);
    return view == null ? Optional.empty() : Optional.of(view.readAttributes().group());
  }

  /** An entry as text. */
  static String text(AclEntry entry) {
    return Nfs4Entry.text(read(entry).ace());
  }

  private static Nfs4Entry read(AclEntry entry) {
    int mask = 0;
    for (Map.Entry<Integer, AclEntryPermission> one : RIGHTS.entrySet()) {
      mask |= entry.permissions().contains(one.getValue()) ? one.getKey() : 0;
    }
    int flags = 0;
    for (Map.Entry<Integer, AclEntryFlag> one : FLAGS.entrySet()) {
      flags |= entry.flags().contains(one.getValue()) ? one.getKey() : 0;
    }
    AceType type =
        switch (entry.type()) {
          case ALLOW -> AceType.ALLOW;
          case DENY -> AceType.DENY;
          case AUDIT -> AceType.AUDIT;
          case ALARM -> AceType.ALARM;
        };
    String who = entry.principal().getName();
    boolean special = who.endsWith("@");
    boolean group = !special && entry.principal() instanceof GroupPrincipal;
    return new Nfs4Entry(type, flags, mask, who, group);
  }

  @Override
  public Standing standing(AmendmentRecord record) {
    try {
      return Standing.of(
          record.differences().get(0), List.of(now(record).toString()), Nfs4Text::isSame);
    } catch (IOException e) {
      return Standing.OTHER;
    }
  }

  @Override
  public String found(AmendmentRecord record) {
    try {
      return "its list is " + String.join(" ", now(record).toString().lines().toList());
    } catch (IOException e) {
      return "there is no such path, or it may not be seen";
    }
  }

  @Override
  public Result make(AmendmentRecord record) {
    if (standing(record) != Standing.BEFORE) {
      return new Result(Outcome.NOT_AS_COUNTED_ON, "");
    }
    Nfs4Text list = Nfs4Text.read(record.differences().get(0).added().get(0));
    try {
      UserPrincipalLookupService names = root.getFileSystem().getUserPrincipalLookupService();
      List<AclEntry> entries = new ArrayList<>();
      for (Nfs4Entry entry : list.entries()) {
        if ((entry.flags() & Ace.INHERITED) != 0) {
          String why = "Java's file API cannot say that an entry is inherited";
          return new Result(Outcome.REFUSED, why);
        }
        entries.add(written(entry, names));
      }
      // Who owns a path may lose the right to change its list with it.
      view(record).setAcl(entries);
      if (list.owner().isPresent()) {
        owned(record, list, names);
      }
      return Result.MADE;
    } catch (IOException e) {
      return new Result(Outcome.REFUSED, OwnFiles.reason(e));
    }
  }

  private void owned(AmendmentRecord record, Nfs4Text list, UserPrincipalLookupService names)
      throws IOException {
    PosixFileAttributeView posix =
        Files.getFileAttributeView(
            path(record), PosixFileAttributeView.class, LinkOption.NOFOLLOW_LINKS);
    if (posix != null && list.group().isPresent()) {
      posix.setGroup(names.lookupPrincipalByGroupName(Nfs4Entry.plain(list.group().get())));
    }
    UserPrincipal owner = names.lookupPrincipalByName(Nfs4Entry.plain(list.owner().orElseThrow()));
    view(record).setOwner(owner);
  }

  private static AclEntry written(Nfs4Entry entry, UserPrincipalLookupService names)
      throws IOException {
    Set<AclEntryPermission> permissions = EnumSet.noneOf(AclEntryPermission.class);
    RIGHTS.forEach(
        (bit, permission) -> {
          if ((entry.mask() & bit) != 0) {
            permissions.add(permission);
          }
        });
    Set<AclEntryFlag> flags = EnumSet.noneOf(AclEntryFlag.class);
    FLAGS.forEach(
        (bit, flag) -> {
          if ((entry.flags() & bit) != 0) {
            flags.add(flag);
          }
        });
    AclEntryType type =
        entry.type() == AceType.DENY
            ? AclEntryType.DENY
            : entry.type() == AceType.AUDIT
                ? AclEntryType.AUDIT
                : entry.type() == AceType.ALARM ? AclEntryType.ALARM : AclEntryType.ALLOW;
    return AclEntry.newBuilder()
        .setType(type)
        .setPrincipal(
            entry.isGroup()
                ? names.lookupPrincipalByGroupName(entry.who())
                : names.lookupPrincipalByName(entry.who()))
        .setPermissions(permissions)
        .setFlags(flags)
        .build();
  }
}
