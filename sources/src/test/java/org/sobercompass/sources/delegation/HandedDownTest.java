package org.sobercompass.sources.delegation;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.sobercompass.core.admin.Powers;
import org.sobercompass.core.delegation.DirectoryTree;
import org.sobercompass.core.delegation.HandedDown;
import org.sobercompass.core.delegation.Origin;
import org.sobercompass.core.delegation.Origins;
import org.sobercompass.core.delegation.TreePatch;
import org.sobercompass.core.delegation.TrusteeKind;
import org.sobercompass.core.delegation.TrusteeNames;
import org.sobercompass.core.descriptor.AceType;
import org.sobercompass.core.facts.SubjectKind;

/** Where an entry has to be taken out for good, who trustees are, and what stands below what. */
class HandedDownTest extends SmallDirectory {
  private static final String DOWN = ";CR;;;" + sid(1101) + ")";

  private DirectoryTree tree() throws IOException {
    return powers().trees().all().get(0);
  }

  private static int at(DirectoryTree tree, String dn) {
    int object = tree.findForm(dn);
    assertThat(object).as(dn).isNotNegative();
    return object;
  }

  private static Optional<HandedDown.Entry> removal(DirectoryTree tree, String dn, int entry) {
    return HandedDown.source(tree, at(tree, dn), entry);
  }

  private static Optional<HandedDown.Entry> entry(DirectoryTree tree, String dn, int entry) {
    return Optional.of(new HandedDown.Entry(at(tree, dn), entry));
  }

  @Test
  void anEntryOfItsOwnIsTakenOutWhereItStands() throws IOException {
    domain("D:");
    unit("a", "D:(A" + ";CI" + DOWN);
    DirectoryTree tree = tree();
    assertThat(removal(tree, "ou=a,dc=x", 0)).isEqualTo(entry(tree, "ou=a,dc=x", 0));
  }

  @Test
  void anInheritedOneIsTakenOutWhereItComesFrom() throws IOException {
    domain("D:(A;CI;SD;;;" + sid(1102) + ")(A;CI" + DOWN);
    unit("a", "D:(A;CIID" + DOWN);
    user("di", 1001, "a", "D:(A;CIID" + DOWN);
    DirectoryTree tree = tree();
    assertThat(removal(tree, "cn=di,ou=a,dc=x", 0)).isEqualTo(entry(tree, "dc=x", 1));
  }

  @Test
  void anInheritedOneThatGoesNoFurtherNeedNotSayWhoInheritsIt() throws IOException {
    domain("D:");
    unit("a", "D:(OA;CINPIO;GW;;" + USER + ";" + sid(1101) + ")");
    user("di", 1001, "a", "D:(A;ID;RCWPSW;;;" + sid(1101) + ")");
    DirectoryTree tree = tree();
    assertThat(removal(tree, "cn=di,ou=a,dc=x", 0)).isEqualTo(entry(tree, "ou=a,dc=x", 0));
    int di = at(tree, "cn=di,ou=a,dc=x");
    assertThat(new Origins(tree, Optional.empty()).of(di)).containsExactly(Origin.INHERITED);
    DirectoryTree without =
        TreePatch.without(tree, List.of(new HandedDown.Entry(at(tree, "ou=a,dc=x"), 0)));
    assertThat(without.descriptor(di).orElseThrow().entries())
        .allMatch(ace -> ace.type().effect() == AceType.Effect.NONE);
  }

  @Test
  void ofTwoThatHandOnTheSameOneCopyGoesAndTheOtherStays() throws IOException {
    domain("D:(A;CI" + DOWN);
    unit("a", "D:(A;CI" + DOWN + "(A;CIID" + DOWN);
    user("di", 1001, "a", "D:(A;;CR;;;" + sid(1101) + ")(A;CIID" + DOWN + "(A;CIID" + DOWN);
    user("ed", 1002, "a", "D:(A;CIID" + DOWN);
    DirectoryTree tree = tree();
    DirectoryTree one =
        TreePatch.without(tree, List.of(new HandedDown.Entry(at(tree, "ou=a,dc=x"), 0)));
    assertThat(standing(one, "ou=a,dc=x")).isEqualTo(1);
    assertThat(standing(one, "cn=di,ou=a,dc=x")).as("its own, and one from above").isEqualTo(2);
    assertThat(standing(one, "cn=ed,ou=a,dc=x")).as("it had but one").isEqualTo(1);
    DirectoryTree both =
        TreePatch.without(
            tree,
            List.of(
                new HandedDown.Entry(at(tree, "ou=a,dc=x"), 0),
                new HandedDown.Entry(at(tree, "dc=x"), 0)));
    assertThat(standing(both, "cn=di,ou=a,dc=x")).as("its own").isEqualTo(1);
    assertThat(standing(both, "cn=ed,ou=a,dc=x")).isZero();
  }

  private static long standing(DirectoryTree tree, String dn) {
    return tree.descriptor(at(tree, dn)).orElseThrow().entries().stream()
        .filter(ace -> ace.type().effect() != AceType.Effect.NONE)
        .count();
  }

  @Test
  void oneThatOnlyClaimsToBeInheritedIsTakenOutWhereItStands() throws IOException {
    domain("D:");
    unit("a", "D:(A;CIID" + DOWN);
    user("di", 1001, "a", "D:(A;CIID" + DOWN);
    DirectoryTree tree = tree();
    assertThat(removal(tree, "cn=di,ou=a,dc=x", 0)).isEqualTo(entry(tree, "ou=a,dc=x", 0));
    assertThat(removal(tree, "ou=a,dc=x", 0)).isEqualTo(entry(tree, "ou=a,dc=x", 0));
  }

  @Test
  void whereNothingComesInFromAboveItStandsThere() throws IOException {
    domain("D:(A;CI" + DOWN);
    unit("a", "D:P(A;CIID" + DOWN);
    DirectoryTree tree = tree();
    assertThat(removal(tree, "ou=a,dc=x", 0)).isEqualTo(entry(tree, "ou=a,dc=x", 0));
  }

  @Test
  void whatTheDirectoryKeepsOnProtectedAdministratorsCannotBeTakenOut() throws IOException {
    domain("D:");
    unit("a", "D:");
    user("di", 1001, "a", "D:P(A" + ";" + DOWN, "adminCount: 1");
    assertThat(removal(tree(), "cn=di,ou=a,dc=x", 0)).isEmpty();
  }

  @Test
  void theNextThatHandsItDownIsFoundWhenOneIsGone() throws IOException {
    domain("D:(A;CI" + DOWN + "(A;CI" + DOWN);
    unit("a", "D:(A;CIID" + DOWN);
    DirectoryTree tree = tree();
    assertThat(removal(tree, "ou=a,dc=x", 0)).isEqualTo(entry(tree, "dc=x", 0));
    DirectoryTree without =
        TreePatch.without(tree, List.of(new HandedDown.Entry(at(tree, "dc=x"), 0)));
    assertThat(removal(without, "ou=a,dc=x", 0)).isEqualTo(entry(tree, "dc=x", 1));
  }

  @Test
  void aListInOrderHasWhatDeniesFirstAndWhatCameFromAboveLast() throws IOException {
    domain("D:");
    unit("a", "D:(A;CIID" + DOWN + "(A;;SD;;;" + sid(1102) + ")(D;;SD;;;" + sid(1103) + ")");
    DirectoryTree tree = tree();
    int unit = at(tree, "ou=a,dc=x");
    assertThat(tree.descriptor(unit).orElseThrow().isCanonical()).isFalse();
    DirectoryTree ordered = TreePatch.inOrder(tree, unit);
    assertThat(ordered.descriptor(unit).orElseThrow().isCanonical()).isTrue();
    assertThat(ordered.descriptor(unit).orElseThrow().entries())
        .extracting(ace -> ace.trustee())
        .containsExactly(sid(1103), sid(1102), sid(1101));
    assertThat(tree.descriptor(unit).orElseThrow().entries().get(0).trustee()).isEqualTo(sid(1101));
  }

  @Test
  void whereOneWasTakenOutAListIsStillInOrder() throws IOException {
    domain("D:(D;;SD;;;" + sid(1101) + ")(D;;WD;;;" + sid(1102) + ")(A;;CR;;;" + sid(1103) + ")");
    DirectoryTree tree = tree();
    DirectoryTree without =
        TreePatch.without(tree, List.of(new HandedDown.Entry(at(tree, "dc=x"), 0)));
    assertThat(without.descriptor(at(tree, "dc=x")).orElseThrow().isCanonical()).isTrue();
    assertThat(without.descriptor(at(tree, "dc=x")).orElseThrow().entries()).hasSize(3);
  }

  @Test
  void onlyWhatStandsRightBelowInTheSameContextIsHandedAnything() throws IOException {
    domain("D:");
    unit("a", "D:");
    user("di", 1001, "a", "D:");
    entry("cn=far,cn=not exported,dc=x", "D:", "objectClass: container", "cn: far");
    entry("cn=Configuration,dc=x", "D:", "objectClass: configuration", "cn: Configuration");
    entry("cn=a\\,b,dc=x", "D:", "objectClass: container", "cn: a,b");
    DirectoryTree tree = tree();
    assertThat(tree.isHandedTo(at(tree, "dc=x"))).isFalse();
    assertThat(tree.isHandedTo(at(tree, "ou=a,dc=x"))).isTrue();
    assertThat(tree.isHandedTo(at(tree, "cn=di,ou=a,dc=x"))).isTrue();
    assertThat(tree.isHandedTo(at(tree, "cn=far,cn=not exported,dc=x"))).isFalse();
    assertThat(tree.isHandedTo(at(tree, "cn=configuration,dc=x"))).isFalse();
    assertThat(tree.isHandedTo(at(tree, "cn=a\\,b,dc=x"))).isTrue();
  }

  @Test
  void trusteesAreNamedAndSorted() throws IOException {
    domain("D:");
    unit("a", "D:");
    user("di", 1001, "a", "D:", "sIDHistory: S-1-5-21-1-1-1-500");
    group("crew", 1101, "D:");
    Powers powers = powers();
    TrusteeNames names = new TrusteeNames(powers.trees());
    assertThat(List.of(names.kind(sid(1001)), names.kind(sid(1101)), names.kind("S-1-1-0")))
        .containsExactly(TrusteeKind.PERSON, TrusteeKind.GROUP, TrusteeKind.BROAD);
    assertThat(names.kind("S-1-5-18")).isEqualTo(TrusteeKind.SYSTEM);
    assertThat(names.kind("S-1-5-32-548")).isEqualTo(TrusteeKind.SYSTEM);
    assertThat(names.kind("S-1-5-21-9-9-9-9")).isEqualTo(TrusteeKind.NOBODY);
    assertThat(names.kind("S-1-5-21-1-1-1-500")).isEqualTo(TrusteeKind.GROUP);
    assertThat(names.name("S-1-5-21-1-1-1-500")).isEqualTo("di (by a former id)");
    assertThat(names.name("S-1-5-11")).isEqualTo("everyone signed in");
    assertThat(names.name("S-1-5-21-9-9-9-9")).isEqualTo("S-1-5-21-9-9-9-9 (nobody)");
    assertThat(names.name(sid(1001))).startsWith("di");
    assertThat(thing(powers, SubjectKind.GROUP, "crew").subject()).isNotNegative();
  }
}
