package org.sobercompass.organization;

import com.unboundid.ldap.sdk.Attribute;
import com.unboundid.ldap.sdk.Entry;
import com.unboundid.ldap.sdk.Modification;
import com.unboundid.ldap.sdk.ModificationType;
import com.unboundid.ldif.LDIFAddChangeRecord;
import com.unboundid.ldif.LDIFChangeRecord;
import com.unboundid.ldif.LDIFDeleteChangeRecord;
import com.unboundid.ldif.LDIFException;
import com.unboundid.ldif.LDIFModifyChangeRecord;
import com.unboundid.ldif.LDIFReader;
import java.io.IOException;
import java.io.InputStream;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.key.Key;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.core.proposal.Step;
import org.sobercompass.core.system.HostLimits;
import org.sobercompass.sources.NameResolver;
import org.sobercompass.sources.directory.AccountStates;
import org.sobercompass.sources.directory.DnForm;
import org.sobercompass.sources.directory.LdifGate;

/** LDIF change records (RFC 2849) of accounts and groups as steps. Use once. */
final class ProposalLdif {
  private final ProposalFile file;
  private final String name;
  private final Problems problems;

  ProposalLdif(ProposalFile file, String name, Problems problems) {
    this.file = file;
    this.name = name;
    this.problems = problems;
  }

  /** Reads all records: what is created is known before the others are looked at. */
  void read(InputStream in) throws IOException {
    List<LDIFChangeRecord> records = new ArrayList<>();
    try (LDIFReader reader = new LDIFReader(new LdifGate(in, name, problems))) {
      for (LDIFChangeRecord record = reader.readChangeRecord();
          record != null;
          record = reader.readChangeRecord()) {
        records.add(record);
      }
    } catch (LDIFException e) {
      problems.error(
          Place.of(name, (int) e.getLineNumber()),
          "from here on this is no LDIF with change records",
          "changetype: and what it changes, as in RFC 2849");
    }
    Map<LDIFChangeRecord, Creation> created = new LinkedHashMap<>();
    for (LDIFChangeRecord record : records) {
      if (record instanceof LDIFAddChangeRecord add) {
        creation(add.getEntryToAdd()).ifPresent(one -> created.put(record, one));
      }
    }
    file.expect(List.copyOf(created.values()));
    for (LDIFChangeRecord record : records) {
      Creation creation = created.get(record);
      Runnable read = creation == null ? () -> record(record) : () -> created(creation);
      file.told(Place.of(name).entry(record.getDN()), read);
    }
  }

  private Optional<Creation> creation(Entry entry) {
    Optional<String> directory =
        Creation.directory(file.organization().model().facts(), entry.getDN());
    if (directory.isEmpty()) {
      problems.error(
          Place.of(name).entry(entry.getDN()),
          "no directory that was read has a unit above it",
          "a DN below an organizational unit that is there");
      return Optional.empty();
    }
    Map<String, List<String>> attributes = new LinkedHashMap<>();
    for (Attribute attribute : entry.getAttributes()) {
      if (Creation.isSecret(attribute.getName())) {
        problems.error(Place.of(name).entry(entry.getDN()), Creation.SECRET, Creation.NO_SECRET);
      }
      attributes.put(attribute.getName(), List.of(attribute.getValues()));
    }
    String[] classes = entry.getObjectClassValues();
    return Optional.of(
        Creation.of(
            Creation.kind(classes == null ? List.of() : List.of(classes)),
            directory.get(),
            entry.getDN(),
            attributes));
  }

  private void created(Creation creation) {
    file.add(creation.step());
    creation
        .members()
        .forEach(value -> file.add(new Step.Join(memberOf(value), creation.step().subject())));
  }

  private void record(LDIFChangeRecord record) {
    Place place = Place.of(name).entry(record.getDN());
    if (record instanceof LDIFDeleteChangeRecord) {
      Key key = file.subject((isGroup(record.getDN()) ? "group " : "account ") + record.getDN());
      file.add(new Step.Presence(key, record.getDN(), Map.of(), false));
      return;
    }
    if (!(record instanceof LDIFModifyChangeRecord modify)) {
      problems.error(
          place,
          "a change of type "
              + record.getChangeType().getName()
              + " cannot be shown in its effects yet",
          "changetype: modify, of the members of a group or the state of an account; add or"
              + " delete");
      return;
    }
    List<Integer> accounts = NameResolver.find(facts(), SubjectKind.ACCOUNT, record.getDN());
    if (accounts.size() == 1) {
      state(accounts.get(0), modify, place);
    } else {
      members(file.subject("group " + record.getDN()), modify, place);
    }
  }

  /** Whether the account is disabled, and when it ends. */
  private void state(int account, LDIFModifyChangeRecord modify, Place place) {
    for (Modification change : modify.getModifications()) {
      AccountStates.Told told = AccountStates.told(change.getAttribute());
      told.disabled()
          .ifPresent(disabled -> file.add(new Step.Disable(facts().key(account), disabled)));
      told.ends().ifPresent(ends -> file.add(Step.Ends.of(facts(), account, ends)));
      boolean other = hosts(account, change) || primary(account, change, place);
      if (told.isNothing() && !other) {
        problems.error(
            place,
            "a change of " + change.getAttributeName() + " cannot be shown in its effects yet",
            "a change of "
                + String.join(", ", AccountStates.ATTRIBUTES)
                + ", host, userWorkstations, gidNumber");
      }
    }
  }

  /** From where it may sign in: the values then. */
  private boolean hosts(int account, Modification change) {
    if (!HostLimits.NEEDS.contains(change.getAttributeName().toLowerCase(Locale.ROOT))) {
      return false;
    }
    List<String> was = HostLimits.of(facts(), account);
    Set<String> is = new LinkedHashSet<>(was);
    List<String> named =
        Stream.of(change.getValues())
            .flatMap(value -> Stream.of(value.split(",")))
            .map(name -> name.strip().toLowerCase(Locale.ROOT))
            .filter(name -> !name.isEmpty())
            .toList();
    if (change.getModificationType().equals(ModificationType.ADD)) {
      is.addAll(named);
    } else if (change.getModificationType().equals(ModificationType.DELETE) && !named.isEmpty()) {
      named.forEach(is::remove);
    } else {
      is.clear();
      is.addAll(named);
    }
    file.add(new Step.Hosts(facts().key(account), was, List.copyOf(is)));
    return true;
  }

  private boolean primary(int account, Modification change, Place place) {
    boolean number = change.getAttributeName().equalsIgnoreCase("gidNumber");
    if (number && change.getValues().length != 1) {
      problems.error(place, "an account has one gidNumber", "replace: gidNumber, and one value");
    } else if (number) {
      Optional<Key> group = numbered(facts().source(account), change.getValues()[0]);
      group.ifPresentOrElse(
          key ->
              file.add(new Step.Primary(facts().key(account), Optional.empty(), Optional.of(key))),
          () ->
              problems.error(
                  place,
                  "no group that was read has the gidNumber " + change.getValues()[0],
                  "sober propose primary-group GROUP WHO, by the name of the group"));
    }
    return number;
  }

  /** The group with a number, where numbers were kept. */
  private Optional<Key> numbered(String directory, String number) {
    for (int group = facts().firstGroup(); group < facts().firstUnit(); group++) {
      boolean same = facts().values(group, "gidnumber").contains(number.strip());
      if (same && facts().source(group).equals(directory)) {
        return Optional.of(facts().key(group));
      }
    }
    return Optional.empty();
  }

  private void members(Key group, LDIFModifyChangeRecord modify, Place place) {
    for (Modification change : modify.getModifications()) {
      String kind = change.getModificationType().getName().toLowerCase(Locale.ROOT);
      boolean members =
          Creation.MEMBERS.contains(change.getAttributeName().toLowerCase(Locale.ROOT));
      boolean plain = kind.equals("add") || (kind.equals("delete") && change.hasValue());
      if (!members || !plain) {
        problems.error(
            place,
            kind + " of " + change.getAttributeName() + " cannot be shown in its effects yet",
            "add: or delete: of member, uniqueMember or memberUid, with values");
        continue;
      }
      for (String value : change.getValues()) {
        Key member = memberOf(value);
        file.add(kind.equals("add") ? new Step.Join(member, group) : new Step.Leave(member, group));
      }
    }
  }

  /** A member by its DN or its login. */
  private Key memberOf(String value) {
    return file.subject((isGroup(value) ? "group " : "account ") + value);
  }

  private boolean isGroup(String value) {
    return DnForm.isDn(value) && !NameResolver.find(facts(), SubjectKind.GROUP, value).isEmpty();
  }

  private Facts facts() {
    return file.organization().model().facts();
  }
}
