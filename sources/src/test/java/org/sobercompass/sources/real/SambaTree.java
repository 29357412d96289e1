package org.sobercompass.sources.real;

import com.unboundid.asn1.ASN1Integer;
import com.unboundid.asn1.ASN1OctetString;
import com.unboundid.asn1.ASN1Sequence;
import com.unboundid.ldap.sdk.Attribute;
import com.unboundid.ldap.sdk.Control;
import com.unboundid.ldap.sdk.LDAPConnection;
import com.unboundid.ldap.sdk.LDAPException;
import com.unboundid.ldap.sdk.Modification;
import com.unboundid.ldap.sdk.ModificationType;
import com.unboundid.ldap.sdk.ModifyRequest;
import com.unboundid.ldap.sdk.SearchRequest;
import com.unboundid.ldap.sdk.SearchResultEntry;
import com.unboundid.ldap.sdk.SearchScope;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import org.sobercompass.core.delegation.DsNames;
import org.sobercompass.core.descriptor.Ace;
import org.sobercompass.core.descriptor.AceType;
import org.sobercompass.core.descriptor.Descriptor;
import org.sobercompass.core.descriptor.DsRights;
import org.sobercompass.core.descriptor.MalformedException;
import org.sobercompass.core.descriptor.WellKnown;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.sources.delegation.TreeReader;
import org.sobercompass.sources.descriptor.DescriptorCodec;

/** Fills a domain controller with accounts, groups, hosts in nested units, and delegations. */
final class SambaTree {
  private static final int PEOPLE = 60;
  private static final int GROUPS = 12;
  private static final int HOSTS = 15;
  private static final int DELEGATIONS = 90;
  private static final String LISTS = "1.2.840.113556.1.4.801";

  private final LDAPConnection connection;
  private final String top;
  private final String secret;
  private final List<String> units = new ArrayList<>();
  private final Map<String, String> sids = new HashMap<>();

  SambaTree(LDAPConnection connection, String top, String secret) {
    this.connection = connection;
    this.top = top;
    this.secret = secret;
  }

  void fill(Random random) throws LDAPException {
    unit(top);
    for (String site : List.of("Herbarium", "Glasshouses", "Seed Vault")) {
      unit("OU=" + site + "," + top);
      for (String part : List.of("Staff", "Groups", "Hosts")) {
        unit("OU=" + part + ",OU=" + site + "," + top);
      }
    }
    for (int i = 0; i < PEOPLE; i++) {
      String dn = "CN=User " + i + ",OU=Staff," + units.get(1 + 4 * (i % 3));
      byte[] password = ('"' + secret + '"').getBytes(StandardCharsets.UTF_16LE);
      connection.add(
          dn,
          new Attribute("objectClass", "user"),
          new Attribute("sAMAccountName", "user" + i),
          new Attribute("unicodePwd", password),
          new Attribute("userAccountControl", "512"));
    }
    for (int g = 0; g < GROUPS; g++) {
      String dn = "CN=Group " + g + ",OU=Groups," + units.get(1 + 4 * (g % 3));
      connection.add(
          dn,
          new Attribute("objectClass", "group"),
          new Attribute("sAMAccountName", "group" + g),
          new Attribute("groupType", "-2147483646"));
    }
    for (int h = 0; h < HOSTS; h++) {
      connection.add(
          "CN=host" + h + ",OU=Hosts," + units.get(1 + 4 * (h % 3)),
          new Attribute("objectClass", "computer"),
          new Attribute("sAMAccountName", "host" + h + "$"),
          new Attribute("unicodePwd", ('"' + secret + '"').getBytes(StandardCharsets.UTF_16LE)),
          new Attribute("userAccountControl", "4096"));
    }
    connection.add("CN=Contact,OU=Staff," + units.get(1), new Attribute("objectClass", "contact"));
    // Everyone signed in as a member of a group of the domain, which is in another.
    for (String name : List.of("All here", "Around all")) {
      connection.add(
          "CN=" + name + ",OU=Groups," + units.get(1),
          new Attribute("objectClass", "group"),
          new Attribute("sAMAccountName", name),
          new Attribute("groupType", "-2147483644"));
    }
    connection.modify(
        "CN=All here,OU=Groups," + units.get(1),
        new Modification(
            ModificationType.ADD,
            "member",
            "CN=S-1-5-11,CN=ForeignSecurityPrincipals," + SambaDc.SUFFIX));
    connection.modify(
        "CN=Around all,OU=Groups," + units.get(1),
        new Modification(ModificationType.ADD, "member", "CN=All here,OU=Groups," + units.get(1)));
    for (SearchResultEntry entry :
        connection
            .search(top, SearchScope.SUB, "(objectSid=*)", "objectSid", "sAMAccountName")
            .getSearchEntries()) {
      sids.put(
          entry.getAttributeValue("sAMAccountName"),
          sid(entry.getAttributeValueBytes("objectSid")));
    }
    for (int i = 0; i < PEOPLE; i++) {
      join(
          "group" + random.nextInt(GROUPS),
          "User " + i + ",OU=Staff," + units.get(1 + 4 * (i % 3)));
    }
    for (int h = 0; h < HOSTS; h++) {
      join("group" + (h % GROUPS), "host" + h + ",OU=Hosts," + units.get(1 + 4 * (h % 3)));
    }
    for (int g = 1; g < GROUPS; g += 3) {
      join("group" + (g - 1), "Group " + g + ",OU=Groups," + units.get(1 + 4 * (g % 3)));
    }
  }

  private void join(String group, String member) throws LDAPException {
    String dn =
        connection
            .search(top, SearchScope.SUB, "(sAMAccountName=" + group + ")", "1.1")
            .getSearchEntries()
            .get(0)
            .getDN();
    connection.modify(dn, new Modification(ModificationType.ADD, "member", "CN=" + member));
  }

  private void unit(String dn) throws LDAPException {
    connection.add(dn, new Attribute("objectClass", "organizationalUnit"));
    units.add(dn);
  }

  /** [MS-DTYP] 2.4.2.2, written again here so that the test does not lean on our reader. */
  private static String sid(byte[] bytes) {
    StringBuilder out = new StringBuilder("S-1-" + bytes[7]);
    for (int i = 8; i < bytes.length; i += 4) {
      long part = 0;
      for (int b = 3; b >= 0; b--) {
        part = part << 8 | bytes[i + b] & 0xff;
      }
      out.append('-').append(part);
    }
    return out.toString();
  }

  static Control lists(int parts) {
    return new Control(
        LISTS, true, new ASN1OctetString(new ASN1Sequence(new ASN1Integer(parts)).encode()));
  }

  Descriptor descriptor(String dn) throws LDAPException, MalformedException {
    SearchRequest request =
        new SearchRequest(dn, SearchScope.BASE, "(objectClass=*)", "nTSecurityDescriptor");
    request.addControl(lists(7));
    return DescriptorCodec.read(
        connection
            .search(request)
            .getSearchEntries()
            .get(0)
            .getAttributeValueBytes("nTSecurityDescriptor"));
  }

  void write(String dn, Descriptor descriptor) throws LDAPException {
    ModifyRequest request =
        new ModifyRequest(
            dn,
            new Modification(
                ModificationType.REPLACE,
                "nTSecurityDescriptor",
                DescriptorCodec.write(descriptor)));
    request.addControl(lists(4));
    connection.modify(request);
  }

  /** Delegations of all kinds, one list at a time, as the server asks; some lists protected. */
  void delegate(Random random, Path nothing) throws Exception {
    SearchRequest request = new SearchRequest(top, SearchScope.SUB, "(objectClass=*)", "1.1");
    List<String> objects = new ArrayList<>(units);
    connection.search(request).getSearchEntries().forEach(e -> objects.add(e.getDN()));
    var names = new TreeReader("none", "none", new Problems()).read(nothing);
    for (int i = 0; i < DELEGATIONS; i++) {
      String dn = objects.get(random.nextInt(random.nextBoolean() ? units.size() : objects.size()));
      Descriptor old = descriptor(dn);
      List<Ace> entries = new ArrayList<>(old.entries());
      int own = (int) entries.stream().filter(ace -> !ace.isInherited()).count();
      int at = random.nextInt(own + 1);
      entries.add(at, entry(random, names.names()));
      int control =
          random.nextInt(9) == 0 ? old.control() | Descriptor.DACL_PROTECTED : old.control();
      write(
          dn,
          new Descriptor(
              control, Optional.empty(), Optional.empty(), Optional.of(entries), Optional.empty()));
    }
  }

  private Ace entry(Random random, DsNames names) {
    List<String> trustees = new ArrayList<>(sids.values());
    trustees.sort(null);
    trustees.addAll(
        List.of(WellKnown.SELF, WellKnown.AUTHENTICATED, WellKnown.CREATOR_OWNER, "S-1-5-32-554"));
    String group = sids.getOrDefault("group" + random.nextInt(GROUPS), "");
    String trustee = random.nextInt(3) > 0 ? group : trustees.get(random.nextInt(trustees.size()));
    int flags =
        new int[] {0, Ace.CHILDREN, Ace.CHILDREN | Ace.BELOW_ONLY, Ace.CHILDREN | Ace.NEXT_ONLY}
            [random.nextInt(4)];
    boolean deny = random.nextInt(5) == 0;
    int kind = random.nextInt(7);
    Optional<java.util.UUID> inheritedBy =
        random.nextInt(kind < 4 ? 3 : 12) > 0 || flags == 0
            ? Optional.empty()
            : names
                .objectClass(List.of("user", "group", "computer").get(random.nextInt(3)))
                .map(DsNames.ObjectClass::id);
    Optional<java.util.UUID> object =
        switch (kind) {
          case 0 -> attribute(names, random, "member", "telephoneNumber", "description", "mail");
          case 1 -> right(names, random, "Personal-Information", "Membership", "User-Logon");
          case 2 ->
              names
                  .objectClass(List.of("user", "group", "computer").get(random.nextInt(3)))
                  .map(DsNames.ObjectClass::id);
          case 3 -> right(names, random, "User-Force-Change-Password", "Send-As");
          default -> Optional.empty();
        };
    int mask =
        switch (kind) {
          case 0, 1 ->
              DsRights.WRITE_PROPERTY | (random.nextBoolean() ? DsRights.READ_PROPERTY : 0);
          case 2 -> DsRights.CREATE_CHILD | DsRights.DELETE_CHILD;
          case 3 -> DsRights.CONTROL_ACCESS;
          default ->
              new int[] {
                    DsRights.WRITE_PROPERTY,
                    DsRights.WRITE_DAC,
                    DsRights.WRITE_OWNER | DsRights.DELETE,
                    DsRights.CREATE_CHILD,
                    DsRights.GENERIC_ALL,
                    DsRights.GENERIC_WRITE
                  }
                  [random.nextInt(6)];
        };
    boolean plain = object.isEmpty() && inheritedBy.isEmpty();
    AceType type =
        plain
            ? (deny ? AceType.DENY : AceType.ALLOW)
            : (deny ? AceType.DENY_OBJECT : AceType.ALLOW_OBJECT);
    return Ace.of(type, flags, mask, trustee).on(object, inheritedBy);
  }

  private Optional<java.util.UUID> attribute(DsNames names, Random random, String... some) {
    return names.attribute(some[random.nextInt(some.length)]).map(DsNames.AttributeType::id);
  }

  private Optional<java.util.UUID> right(DsNames names, Random random, String... some) {
    return names.right(some[random.nextInt(some.length)]).map(DsNames.ControlRight::id);
  }
}
