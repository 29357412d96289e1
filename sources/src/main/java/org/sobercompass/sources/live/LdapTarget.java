package org.sobercompass.sources.live;

import com.unboundid.ldap.sdk.Control;
import com.unboundid.ldap.sdk.DeleteRequest;
import com.unboundid.ldap.sdk.Entry;
import com.unboundid.ldap.sdk.Filter;
import com.unboundid.ldap.sdk.LDAPException;
import com.unboundid.ldap.sdk.LDAPResult;
import com.unboundid.ldap.sdk.ModifyRequest;
import com.unboundid.ldap.sdk.ResultCode;
import com.unboundid.ldap.sdk.SearchRequest;
import com.unboundid.ldap.sdk.SearchScope;
import com.unboundid.ldap.sdk.controls.AssertionRequestControl;
import com.unboundid.ldap.sdk.controls.ManageDsaITRequestControl;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.sobercompass.core.amendment.AmendmentRecord;
import org.sobercompass.core.amendment.Difference;
import org.sobercompass.core.amendment.LiveTarget;
import org.sobercompass.core.amendment.Standing;
import org.sobercompass.core.problem.OutsideException;

/**
 * A live directory that is changed. Values that go are named in the modification itself, so that
 * the server refuses where they are not there any more (RFC 4511 section 4.6). The list of an
 * object has no such way: it is read and compared just before it is written.
 */
final class LdapTarget implements LiveTarget {
  /** Which parts of a descriptor are meant ([MS-ADTS] 3.1.1.3.4.1.11): the list only. */
  private static final String PARTS = "1.2.840.113556.1.4.801";

  private static final byte[] LIST_ONLY = {0x30, 3, 2, 1, 4};

  /** What moves with every change of an entry, the finest first. */
  private static final List<String> STAMPS = List.of("entryCSN", "uSNChanged", "modifyTimestamp");

  /** Where an entry stands that another server has (RFC 3296 section 2.3). */
  private static final String REFERENCE = "ref";

  private static final int TRIES = 5;
  private static final Result MOVED =
      new Result(
          Outcome.REFUSED,
          "the entry is changed or renamed all the time, so it cannot be compared");

  private final LdapSession session;
  private @Nullable Optional<RootEntry> root;

  /** Where entries stand that have another name since, by the number of the record. */
  private final Map<Integer, String> renamed = new HashMap<>();

  /** Where else the server says that entries stand, by the number of the record. */
  private final Map<Integer, String> elsewhere = new HashMap<>();

  LdapTarget(LdapSession session) {
    this.session = session;
  }

  @Override
  public String identity() {
    return session.identity();
  }

  @Override
  public String reached() {
    return session.access().address() + ", " + session.access().tls().words();
  }

  @Override
  public Standing standing(AmendmentRecord record) {
    return standing(record, entry(record));
  }

  private static Standing standing(AmendmentRecord record, Optional<Entry> entry) {
    if (LdapEntries.isWhole(record)) {
      return whole(record, entry);
    }
    if (entry.isEmpty()) {
      return Standing.OTHER;
    }
    List<Standing> parts = new ArrayList<>();
    for (Difference difference : record.differences()) {
      String name = difference.name();
      parts.add(
          Standing.of(difference, LdapValues.of(entry.get(), name), LdapValues.same(difference)));
    }
    return Standing.all(parts);
  }

  /** How the directory stands to the creation or deletion of an entry. */
  private static Standing whole(AmendmentRecord record, Optional<Entry> there) {
    boolean created = LdapEntries.isCreated(record);
    if (there.isEmpty()) {
      return created ? Standing.BEFORE : Standing.AFTER;
    }
    boolean asSaid = LdapEntries.differing(there.get(), LdapEntries.of(record)).isEmpty();
    return !asSaid ? Standing.OTHER : created ? Standing.AFTER : Standing.BEFORE;
  }

  @Override
  public String found(AmendmentRecord record) {
    Optional<Entry> entry = entry(record);
    if (entry.isEmpty() && elsewhere.containsKey(record.number())) {
      return "the server says that it stands at "
          + elsewhere.get(record.number())
          + "; it is not followed";
    }
    if (entry.isEmpty()) {
      return "there is no entry " + record.place() + ", or it may not be seen";
    }
    if (LdapEntries.isWhole(record)) {
      return "the entry is there, and otherwise in "
          + String.join(", ", LdapEntries.differing(entry.get(), LdapEntries.of(record)));
    }
    List<String> said = new ArrayList<>();
    for (Difference difference : record.differences()) {
      String name = difference.name();
      List<String> there = LdapValues.of(entry.get(), name);
      if (name.equals(LdapTargetKind.LIST)) {
        said.add("the list is another than was read");
        continue;
      }
      difference.removed().stream()
          .filter(value -> there.stream().noneMatch(t -> LdapValues.isSame(name, t, value)))
          .forEach(value -> said.add(name + " is not " + value));
      difference.added().stream()
          .filter(value -> there.stream().anyMatch(t -> LdapValues.isSame(name, t, value)))
          .forEach(value -> said.add(name + " is " + value + " already"));
      if (there.size() < 2 && !said.isEmpty()) {
        said.add(there.isEmpty() ? "it has no value" : "it is " + there.get(0));
      }
    }
    return String.join("; ", said);
  }

  /** The entry at the place of a record, or where it stands now that it has another name. */
  private Optional<Entry> entry(AmendmentRecord record) {
    elsewhere.remove(record.number());
    Optional<Entry> there = search(record, record.place(), SearchScope.BASE, "(objectClass=*)");
    boolean created = LdapEntries.isWhole(record) && LdapEntries.isCreated(record);
    if (there.isPresent() || created || record.id().isEmpty()) {
      return there;
    }
    List<String> bases = root().map(RootEntry::contexts).orElse(List.of());
    for (int i = 0; i < bases.size() && there.isEmpty(); i++) {
      there = search(record, bases.get(i), SearchScope.SUB, record.id());
    }
    return there;
  }

  private Optional<Entry> search(
      AmendmentRecord record, String base, SearchScope scope, String filter) {
    List<String> names = new ArrayList<>(STAMPS);
    names.addAll(List.of("objectClass", REFERENCE));
    if (LdapEntries.isWhole(record)) {
      names.add(SearchRequest.ALL_USER_ATTRIBUTES);
      LdapEntries.of(record).getAttributes().forEach(one -> names.add(one.getName()));
    } else {
      record.differences().forEach(difference -> names.add(difference.name()));
    }
    try {
      SearchRequest request = new SearchRequest(base, scope, filter, names.toArray(String[]::new));
      if (hasList(record)) {
        request.addControl(listOnly());
      }
      if (supports(ManageDsaITRequestControl.MANAGE_DSA_IT_REQUEST_OID)) {
        // As it is stored: what rules make of it is none of it.
        request.addControl(new ManageDsaITRequestControl(false));
      }
      Optional<Entry> found = Optional.ofNullable(session.connection().searchForEntry(request));
      if (found.filter(one -> one.hasObjectClass("referral")).isPresent()) {
        elsewhere.put(record.number(), found.get().getAttributeValue(REFERENCE));
        return Optional.empty();
      }
      return found;
    } catch (LDAPException e) {
      if (e.getResultCode().equals(ResultCode.NO_SUCH_OBJECT)) {
        return Optional.empty();
      }
      if (e.getResultCode().equals(ResultCode.REFERRAL)) {
        elsewhere.put(record.number(), String.join(" or ", e.getReferralURLs()));
        return Optional.empty();
      }
      throw LdapFailure.of(session.access(), "read " + record.place(), e);
    }
  }

  private static boolean hasList(AmendmentRecord record) {
    return record.differences().stream().anyMatch(d -> d.name().equals(LdapTargetKind.LIST));
  }

  private static Control listOnly() {
    return new Control(PARTS, false, new com.unboundid.asn1.ASN1OctetString(LIST_ONLY));
  }

  @Override
  public Result make(AmendmentRecord record) {
    Result result = once(record);
    // Changed in what the record does not count on, while it was compared.
    for (int i = 1; i < TRIES && result.equals(MOVED); i++) {
      result = once(record);
    }
    return result;
  }

  private Result once(AmendmentRecord record) {
    boolean compared = hasList(record) || LdapEntries.isWhole(record);
    Optional<Entry> there = compared ? entry(record) : Optional.empty();
    if (compared && standing(record, there) != Standing.BEFORE) {
      return new Result(Outcome.NOT_AS_COUNTED_ON, "");
    }
    String place =
        there.map(Entry::getDN).orElse(renamed.getOrDefault(record.number(), record.place()));
    List<Control> controls = new ArrayList<>();
    there.flatMap(this::unchanged).ifPresent(controls::add);
    if (!LdapEntries.isWhole(record)) {
      if (hasList(record)) {
        controls.add(listOnly());
      }
      ModifyRequest request =
          new ModifyRequest(
              place, LdapTargetKind.modifications(record), controls.toArray(Control[]::new));
      return made(record, () -> session.connection().modify(request));
    }
    if (LdapEntries.isCreated(record)) {
      return made(record, () -> session.connection().add(LdapEntries.of(record)));
    }
    DeleteRequest request = new DeleteRequest(place, controls.toArray(Control[]::new));
    return made(record, () -> session.connection().delete(request));
  }

  /**
   * That an entry is as it was when it was compared, which the server itself asks where it can (RFC
   * 4528): by the stamp that every change of it moves.
   */
  private Optional<Control> unchanged(Entry entry) {
    if (!supports(AssertionRequestControl.ASSERTION_REQUEST_OID)) {
      return Optional.empty();
    }
    return STAMPS.stream()
        .filter(entry::hasAttribute)
        .findFirst()
        .map(
            stamp ->
                new AssertionRequestControl(
                    Filter.createEqualityFilter(stamp, entry.getAttributeValue(stamp)), true));
  }

  /** Whether the server supports a control; not where it does not show its root entry. */
  private boolean supports(String control) {
    return root().filter(root -> root.controls().contains(control)).isPresent();
  }

  private Optional<RootEntry> root() {
    Optional<RootEntry> known = root;
    if (known == null) {
      try {
        known = Optional.of(session.root());
      } catch (OutsideException e) {
        known = Optional.empty(); // it is asked the plain way
      }
      root = known;
    }
    return known;
  }

  /** Whether an entry is found by its id under another name, which is kept. */
  private boolean isRenamed(AmendmentRecord record) {
    Optional<String> name = entry(record).map(Entry::getDN);
    return name.isPresent() && !name.get().equals(renamed.put(record.number(), name.get()));
  }

  /** A request to the server. */
  private interface Asking {
    LDAPResult ask() throws LDAPException;
  }

  private Result made(AmendmentRecord record, Asking request) {
    try {
      request.ask();
      return Result.MADE;
    } catch (LDAPException e) {
      String why = LdapFailure.of(session.access(), "change " + record.place(), e).problem().what();
      if (LdapFailure.isConnection(e) || e.getResultCode().equals(ResultCode.TIMEOUT)) {
        return new Result(Outcome.LOST, why);
      }
      if (e.getResultCode().equals(ResultCode.ASSERTION_FAILED)) {
        return MOVED;
      }
      boolean gone =
          e.getResultCode().equals(ResultCode.NO_SUCH_OBJECT)
              || e.getResultCode().equals(ResultCode.REFERRAL);
      if (gone && isRenamed(record)) {
        return MOVED;
      }
      // Servers say in different ways that a value is there already, or is not.
      return standing(record) == Standing.BEFORE
          ? new Result(Outcome.REFUSED, why)
          : new Result(Outcome.NOT_AS_COUNTED_ON, why);
    }
  }

  @Override
  public void close() {
    session.close();
  }
}
