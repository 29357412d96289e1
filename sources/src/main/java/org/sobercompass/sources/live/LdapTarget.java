package org.sobercompass.sources.live;

import com.unboundid.ldap.sdk.Control;
import com.unboundid.ldap.sdk.Entry;
import com.unboundid.ldap.sdk.LDAPException;
import com.unboundid.ldap.sdk.ModifyRequest;
import com.unboundid.ldap.sdk.ResultCode;
import com.unboundid.ldap.sdk.SearchRequest;
import com.unboundid.ldap.sdk.SearchResultEntry;
import com.unboundid.ldap.sdk.SearchScope;
import com.unboundid.util.Base64;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.function.BiPredicate;
import org.jspecify.annotations.Nullable;
import org.sobercompass.core.amendment.AmendmentRecord;
import org.sobercompass.core.amendment.Difference;
import org.sobercompass.core.amendment.LiveTarget;
import org.sobercompass.core.amendment.Standing;
import org.sobercompass.core.descriptor.Ace;
import org.sobercompass.core.descriptor.Descriptor;
import org.sobercompass.core.descriptor.MalformedException;
import org.sobercompass.sources.descriptor.DescriptorCodec;
import org.sobercompass.sources.directory.DnForm;

/**
 * A live directory that is changed. Values that go are named in the modification itself, so that
 * the server refuses where they are not there any more (RFC 4511 section 4.6). The list of an
 * object has no such way: it is read and compared just before it is written.
 */
final class LdapTarget implements LiveTarget {
  /** Which parts of a descriptor are meant ([MS-ADTS] 3.1.1.3.4.1.11): the list only. */
  private static final String PARTS = "1.2.840.113556.1.4.801";

  private static final byte[] LIST_ONLY = {0x30, 3, 2, 1, 4};

  private final LdapSession session;

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
    Optional<Entry> entry = entry(record);
    if (entry.isEmpty()) {
      return Standing.OTHER;
    }
    List<Standing> parts = new ArrayList<>();
    for (Difference difference : record.differences()) {
      String name = difference.name();
      parts.add(Standing.of(difference, values(entry.get(), name), same(difference)));
    }
    return Standing.all(parts);
  }

  /**
   * Of lists the entries written there themselves are compared; those from above are the server's
   * to keep. Only where the difference is in nothing else are those compared too.
   */
  private static BiPredicate<String, String> same(Difference difference) {
    boolean list = difference.name().equals(LdapTargetKind.LIST);
    boolean whole =
        list && isSameList(difference.removed().get(0), difference.added().get(0), false);
    return list
        ? (one, other) -> isSameList(one, other, whole)
        : (one, other) -> isSame(difference.name(), one, other);
  }

  @Override
  public String found(AmendmentRecord record) {
    Optional<Entry> entry = entry(record);
    if (entry.isEmpty()) {
      return "there is no entry " + record.place() + ", or it may not be seen";
    }
    List<String> said = new ArrayList<>();
    for (Difference difference : record.differences()) {
      String name = difference.name();
      List<String> there = values(entry.get(), name);
      if (name.equals(LdapTargetKind.LIST)) {
        said.add("the list is another than was read");
        continue;
      }
      difference.removed().stream()
          .filter(value -> there.stream().noneMatch(t -> isSame(name, t, value)))
          .forEach(value -> said.add(name + " is not " + value));
      difference.added().stream()
          .filter(value -> there.stream().anyMatch(t -> isSame(name, t, value)))
          .forEach(value -> said.add(name + " is " + value + " already"));
      if (there.size() < 2 && !said.isEmpty()) {
        said.add(there.isEmpty() ? "it has no value" : "it is " + there.get(0));
      }
    }
    return String.join("; ", said);
  }

  private Optional<Entry> entry(AmendmentRecord record) {
    String[] names = record.differences().stream().map(Difference::name).toArray(String[]::new);
    try {
      SearchRequest request =
          new SearchRequest(record.place(), SearchScope.BASE, "(objectClass=*)", names);
      if (hasList(record)) {
        request.addControl(listOnly());
      }
      SearchResultEntry found = session.connection().searchForEntry(request);
      return Optional.ofNullable(found);
    } catch (LDAPException e) {
      if (e.getResultCode().equals(ResultCode.NO_SUCH_OBJECT)) {
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

  private static List<String> values(Entry entry, String name) {
    if (name.equals(LdapTargetKind.LIST)) {
      byte @Nullable [] bytes = entry.getAttributeValueBytes(name);
      return bytes == null ? List.of() : List.of(Base64.encode(bytes));
    }
    String[] values = entry.getAttributeValues(name);
    return values == null ? List.of() : List.of(values);
  }

  /** As the matching rule of the attribute says (RFC 4517). */
  private static boolean isSame(String name, String one, String other) {
    return switch (name.toLowerCase(Locale.ROOT)) {
      case "member", "uniquemember" -> DnForm.of(one).equals(DnForm.of(other));
      case "nsaccountlock" -> one.equalsIgnoreCase(other);
      default -> one.equals(other);
    };
  }

  private static boolean isSameList(String one, String other, boolean whole) {
    try {
      Descriptor a = DescriptorCodec.read(LdapTargetKind.bytes(one));
      Descriptor b = DescriptorCodec.read(LdapTargetKind.bytes(other));
      return (whole ? a.entries().equals(b.entries()) : own(a).equals(own(b)))
          && a.dacl().isPresent() == b.dacl().isPresent()
          && a.isProtected() == b.isProtected();
    } catch (MalformedException e) {
      return false;
    }
  }

  private static List<Ace> own(Descriptor descriptor) {
    return descriptor.entries().stream().filter(ace -> !ace.isInherited()).toList();
  }

  @Override
  public Result make(AmendmentRecord record) {
    boolean list = hasList(record);
    if (list && standing(record) != Standing.BEFORE) {
      return new Result(Outcome.NOT_AS_COUNTED_ON, "");
    }
    ModifyRequest request = new ModifyRequest(record.place(), LdapTargetKind.modifications(record));
    if (list) {
      request.addControl(listOnly());
    }
    try {
      session.connection().modify(request);
      return Result.MADE;
    } catch (LDAPException e) {
      String why = LdapFailure.of(session.access(), "change " + record.place(), e).problem().what();
      if (LdapFailure.isConnection(e) || e.getResultCode().equals(ResultCode.TIMEOUT)) {
        return new Result(Outcome.LOST, why);
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
