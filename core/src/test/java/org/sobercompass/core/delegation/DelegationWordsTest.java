package org.sobercompass.core.delegation;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.EnumSet;
import java.util.List;
import java.util.Optional;
import java.util.UUID;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.sobercompass.core.descriptor.Ace;
import org.sobercompass.core.descriptor.AceType;
import org.sobercompass.core.descriptor.Descriptor;
import org.sobercompass.core.descriptor.DsRights;
import org.sobercompass.core.descriptor.WellKnown;

/** The tree of objects, and delegations in words. */
class DelegationWordsTest {
  private static final UUID USER = new UUID(1, 1);
  private static final UUID UNIT = new UUID(2, 2);
  private static final UUID MAIL = new UUID(3, 3);
  private static final UUID RESET = new UUID(4, 4);

  private final DsNames names = new DsNames();
  private final TreeBuilder builder = new TreeBuilder("main");

  DelegationWordsTest() {
    names.add(new DsNames.ObjectClass("top", new UUID(9, 9), "top", Optional.empty()));
    names.add(new DsNames.ObjectClass("user", USER, "top", Optional.of(list(all("admins")))));
    names.add(new DsNames.ObjectClass("organizationalUnit", UNIT, "top", Optional.empty()));
    names.add(new DsNames.AttributeType("mail", MAIL, Optional.empty(), false));
    names.add(new DsNames.ControlRight("Reset", "set a password", RESET, DsRights.CONTROL_ACCESS));
  }

  private static Ace all(String trustee) {
    return Ace.of(AceType.ALLOW, 0, DsRights.ALL, trustee);
  }

  private static Descriptor list(Ace... entries) {
    return new Descriptor(
        0, Optional.of("owner"), Optional.empty(), Optional.of(List.of(entries)), Optional.empty());
  }

  private void add(String dn, String classes, Optional<Descriptor> descriptor, boolean guarded) {
    String label =
        dn.substring(dn.indexOf('=') + 1, dn.contains(",") ? dn.indexOf(',') : dn.length());
    builder.add(
        new TreeBuilder.Row(dn, dn, classes, descriptor, "S-" + dn, label, List.of(), guarded));
  }

  @Test
  void objectsStandBelowTheirParentsInWhateverOrderTheyCome() {
    add("cn=b,ou=x,dc=t", "top|user", Optional.empty(), false);
    add("dc=t", "organizationalUnit", Optional.empty(), false);
    add("ou=x-y,dc=t", "organizationalUnit", Optional.empty(), false);
    add("cn=a\\,c,ou=x,dc=t", "user|top", Optional.empty(), false);
    add("ou=x,dc=t", "organizationalUnit", Optional.empty(), false);
    DirectoryTree tree = builder.build(names);
    List<String> order = new ArrayList<>();
    for (int i = 0; i < tree.size(); i++) {
      order.add(tree.dn(i) + " " + tree.parent(i) + " " + tree.end(i) + " " + tree.objectClass(i));
    }
    assertThat(order)
        .containsExactly(
            "dc=t -1 5 organizationalUnit",
            "ou=x,dc=t 0 4 organizationalUnit",
            "cn=a\\,c,ou=x,dc=t 1 3 user",
            "cn=b,ou=x,dc=t 1 4 user",
            "ou=x-y,dc=t 0 5 organizationalUnit");
    assertThat(tree.findForm("ou=x,dc=t")).isEqualTo(1);
    assertThat(tree.findForm("ou=z,dc=t")).isEqualTo(-1);
    assertThat(tree.bySid("S-dc=t")).isZero();
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "ALLOW        | 0  | write          |      |      | write all attributes",
        "DENY         | 0  | write          |      |      | not write all attributes",
        "ALLOW_OBJECT | 0  | write          | mail |      | write mail",
        "ALLOW_OBJECT | 10 | control        | reset | user | extended right set a password of each"
            + " user below",
        "ALLOW        | 2  | all            |      |      | full control here and below",
        "ALLOW        | 14 | write          |      |      | write all attributes right below",
        "ALLOW        | 6  | write          |      |      | write all attributes here and right"
            + " below",
        "ALLOW_CONDITIONAL | 0 | write      |      |      | write all attributes, on a condition"
      })
  void anEntryIsToldInWords(
      AceType type, int flags, String right, String object, String inherited, String words) {
    int mask =
        switch (right) {
          case "write" -> DsRights.WRITE_PROPERTY;
          case "control" -> DsRights.CONTROL_ACCESS;
          default -> DsRights.ALL;
        };
    Ace ace =
        Ace.of(type, flags, mask, "a")
            .on(
                Optional.ofNullable(object).map(o -> o.equals("mail") ? MAIL : RESET),
                Optional.ofNullable(inherited).map(i -> USER));
    assertThat(new EntryWords(names).of(ace)).isEqualTo(words);
  }

  private Delegations delegations(DirectoryTree tree) {
    List<AdminAction> actions =
        List.of(
            new AdminAction(
                "reset", "set a password", List.of("user"), new Requirement.Control("Reset"), 2),
            new AdminAction(
                "mail",
                "edit mail",
                List.of("user"),
                new Requirement.Attribute(DsRights.WRITE_PROPERTY, "mail"),
                0),
            new AdminAction(
                "all", "full control", List.of(), new Requirement.Simple(DsRights.ALL), 2));
    return new Delegations(tree, new Origins(tree, Optional.empty()), actions);
  }

  @Test
  void entriesOfOneHolderAreOneLineWithTheStrongestFirst() {
    Ace reset =
        Ace.of(
                AceType.ALLOW_OBJECT,
                Ace.CHILDREN | Ace.BELOW_ONLY,
                DsRights.CONTROL_ACCESS,
                "helpers")
            .on(Optional.of(RESET), Optional.of(USER));
    Ace mail =
        Ace.of(AceType.ALLOW_OBJECT, Ace.CHILDREN, DsRights.WRITE_PROPERTY, "helpers")
            .on(Optional.of(MAIL), Optional.empty());
    Ace watched = Ace.of(AceType.AUDIT, 0, DsRights.ALL, "helpers");
    add("ou=x", "organizationalUnit", Optional.of(list(mail, reset, all("boss"), watched)), false);
    List<Delegation> found = delegations(builder.build(names)).on(0, EnumSet.of(Origin.ADDED));
    assertThat(found).hasSize(2);
    assertThat(found.get(0).trustee()).isEqualTo("helpers");
    assertThat(found.get(0).actions()).extracting(AdminAction::id).containsExactly("reset", "mail");
    assertThat(found.get(0).entries()).containsExactly(0, 1);
    assertThat(found.get(1).actions()).extracting(AdminAction::id).containsExactly("all");
  }

  @Test
  void protectedAdministratorsHaveTheListThatIsKeptForThem() {
    Ace kept = Ace.of(AceType.ALLOW, 0, DsRights.WRITE_DAC, "keepers");
    add("dc=t", "organizationalUnit", Optional.of(list()), false);
    add("cn=system,dc=t", "organizationalUnit", Optional.of(list()), false);
    builder.add(
        new TreeBuilder.Row(
            "CN=AdminSDHolder,CN=System,dc=t",
            "cn=adminsdholder,cn=system,dc=t",
            "organizationalUnit",
            Optional.of(list(kept)),
            "",
            "AdminSDHolder",
            List.of(),
            false));
    add("cn=chief,dc=t", "user", Optional.of(list(kept, all("admins"), all("boss"))), true);
    add("cn=plain,dc=t", "user", Optional.of(list(kept)), false);
    DirectoryTree tree = builder.build(names);
    Origins origins = new Origins(tree, Optional.empty());
    assertThat(origins.of(tree.findForm("cn=chief,dc=t")))
        .containsExactly(Origin.GUARDED, Origin.DEFAULT, Origin.ADDED);
    assertThat(origins.of(tree.findForm("cn=plain,dc=t"))).containsExactly(Origin.ADDED);
  }

  @Test
  void whatDidNotArriveBelowIsTold() {
    Ace down = Ace.of(AceType.ALLOW, Ace.CHILDREN, DsRights.WRITE_PROPERTY, "a");
    Ace creator = Ace.of(AceType.ALLOW, Ace.CHILDREN, DsRights.DELETE, WellKnown.CREATOR_OWNER);
    add("dc=t", "organizationalUnit", Optional.of(list(down, creator)), false);
    add("cn=late,dc=t", "user", Optional.of(list()), false);
    add(
        "cn=whole,dc=t",
        "user",
        Optional.of(
            list(
                down.with(Ace.CHILDREN | Ace.INHERITED, down.mask(), "a"),
                Ace.of(AceType.ALLOW, Ace.INHERITED, DsRights.DELETE, "owner"),
                creator.with(
                    Ace.CHILDREN | Ace.BELOW_ONLY | Ace.INHERITED,
                    DsRights.DELETE,
                    WellKnown.CREATOR_OWNER))),
        false);
    DirectoryTree tree = builder.build(names);
    Origins origins = new Origins(tree, Optional.empty());
    assertThat(origins.missing(tree.findForm("cn=late,dc=t"))).hasSize(3);
    assertThat(origins.missing(tree.findForm("cn=whole,dc=t"))).isEmpty();
    assertThat(origins.of(tree.findForm("cn=whole,dc=t"))).containsOnly(Origin.INHERITED);
  }
}
