package org.sobercompass.sources.live;

import com.unboundid.ldap.sdk.Modification;
import com.unboundid.ldap.sdk.ModificationType;
import com.unboundid.ldif.LDIFAddChangeRecord;
import com.unboundid.ldif.LDIFChangeRecord;
import com.unboundid.ldif.LDIFDeleteChangeRecord;
import com.unboundid.ldif.LDIFModifyChangeRecord;
import com.unboundid.util.Base64;
import java.net.URI;
import java.text.ParseException;
import java.util.ArrayList;
import java.util.List;
import org.sobercompass.core.amendment.AmendmentRecord;
import org.sobercompass.core.amendment.Difference;
import org.sobercompass.core.amendment.LiveTarget;
import org.sobercompass.core.problem.Plain;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.sources.Collecting;
import org.sobercompass.sources.Secret;
import org.sobercompass.sources.TargetKind;

/** Directories that are changed over LDAP; their files are change records (RFC 2849). */
public final class LdapTargetKind implements TargetKind {
  /** The word for it. */
  static final String ID = "ldap";

  /** The list of an object; it is written whole. */
  static final String LIST = "nTSecurityDescriptor";

  private static final int LINE = 76;

  private static final Form FORM =
      new Form(
          ID,
          "LDIF change records",
          ".ldif",
          "ldaps://HOST, or ldap://HOST for StartTLS",
          "ldapmodify -H ldaps://HOST -D DN -W -f FILE");

  @Override
  public Form form() {
    return FORM;
  }

  @Override
  public String text(List<AmendmentRecord> records) {
    StringBuilder out = new StringBuilder("version: 1\n");
    for (AmendmentRecord record : records) {
      // A name with a line end in it must not become a line of its own.
      String words = Plain.text(record.words());
      out.append("\n# ").append(record.number()).append(": ").append(words).append('\n');
      if (record.differences().stream().anyMatch(d -> d.name().equals(LIST))) {
        out.append("# The list is written whole: look first whether it still is what it was.\n");
      }
      for (String loss : losses(record)) {
        out.append("# ").append(Plain.text(loss)).append('\n');
      }
      LDIFChangeRecord change = change(record);
      for (String line : change.toLDIF(LINE)) {
        out.append(line).append('\n');
      }
    }
    return out.toString();
  }

  private static LDIFChangeRecord change(AmendmentRecord record) {
    if (!LdapEntries.isWhole(record)) {
      return new LDIFModifyChangeRecord(record.place(), modifications(record));
    }
    return LdapEntries.isCreated(record)
        ? new LDIFAddChangeRecord(LdapEntries.of(record))
        : new LDIFDeleteChangeRecord(record.place());
  }

  /** The id of an entry, and its password, are given by the directory, and never given again. */
  @Override
  public List<String> losses(AmendmentRecord record) {
    return LdapEntries.isWhole(record) && !LdapEntries.isCreated(record)
        ? List.of(
            "deleting "
                + record.place()
                + " is for good: created again, it has the attributes that were written down, under"
                + " a new id and without a password, and lists that name the old id do not mean it")
        : List.of();
  }

  /** What a record is in LDAP: values that go are named, so that others are never overwritten. */
  static List<Modification> modifications(AmendmentRecord record) {
    List<Modification> all = new ArrayList<>();
    for (Difference difference : record.differences()) {
      String name = difference.name();
      if (name.equals(LIST)) {
        all.add(new Modification(ModificationType.REPLACE, name, bytes(difference.added().get(0))));
        continue;
      }
      if (!difference.removed().isEmpty()) {
        all.add(
            new Modification(
                ModificationType.DELETE, name, difference.removed().toArray(String[]::new)));
      }
      if (!difference.added().isEmpty()) {
        all.add(
            new Modification(
                ModificationType.ADD, name, difference.added().toArray(String[]::new)));
      }
    }
    return all;
  }

  static byte[] bytes(String base64) {
    try {
      return Base64.decode(base64);
    } catch (ParseException e) {
      throw new IllegalArgumentException(e);
    }
  }

  @Override
  public LiveTarget open(Door door, Secret.Origins origins) {
    if (Secret.isIn(door.where())) {
      throw new Collecting.Mistyped("the address holds a user or a password; expected --as");
    }
    URI uri =
        AccessSettings.parse(door.where())
            .orElseThrow(
                () ->
                    new Collecting.Mistyped(
                        Problem.quote(door.where())
                            + " is no address of a directory; expected "
                            + FORM.where()));
    LdapAccess access =
        AccessSettings.of(door.target(), uri, door.plain())
            .with(
                door.authority(),
                door.as(),
                door.secret(),
                List.of(),
                LdapAccess.PAGE,
                LdapAccess.PATIENCE);
    return new LdapTarget(LdapSession.open(access, origins));
  }
}
