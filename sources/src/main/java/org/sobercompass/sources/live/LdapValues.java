package org.sobercompass.sources.live;

import com.unboundid.ldap.sdk.Entry;
import com.unboundid.util.Base64;
import java.util.List;
import java.util.Locale;
import java.util.function.BiPredicate;
import org.jspecify.annotations.Nullable;
import org.sobercompass.core.amendment.Difference;
import org.sobercompass.core.descriptor.Ace;
import org.sobercompass.core.descriptor.Descriptor;
import org.sobercompass.core.descriptor.MalformedException;
import org.sobercompass.sources.descriptor.DescriptorCodec;
import org.sobercompass.sources.directory.DnForm;

/** Values of entries, and when two are the same to the server. */
final class LdapValues {
  private LdapValues() {}

  /**
   * Of lists the entries written there themselves are compared; those from above are the server's
   * to keep. Only where the difference is in nothing else are those compared too.
   */
  static BiPredicate<String, String> same(Difference difference) {
    boolean list = difference.name().equals(LdapTargetKind.LIST);
    boolean whole =
        list && isSameList(difference.removed().get(0), difference.added().get(0), false);
    return list
        ? (one, other) -> isSameList(one, other, whole)
        : (one, other) -> isSame(difference.name(), one, other);
  }

  /** The values of an attribute as a record has them. */
  static List<String> of(Entry entry, String name) {
    if (name.equals(LdapTargetKind.LIST)) {
      byte @Nullable [] bytes = entry.getAttributeValueBytes(name);
      return bytes == null ? List.of() : List.of(Base64.encode(bytes));
    }
    String[] values = entry.getAttributeValues(name);
    return values == null ? List.of() : List.of(values);
  }

  /** As the matching rule of the attribute says (RFC 4517). */
  static boolean isSame(String name, String one, String other) {
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
}
