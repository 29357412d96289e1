package org.sobercompass.core.descriptor;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import java.util.UUID;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;
import org.sobercompass.core.system.Verdict;

/** The access check decides as the specification reads, by hand and against a second writing. */
class AccessCheckTest {
  private static final UUID CLASS = new UUID(1, 1);
  private static final UUID SET = new UUID(2, 2);
  private static final UUID ATTRIBUTE = new UUID(3, 3);
  private static final UUID OTHER = new UUID(4, 4);
  private static final Target WRITE = Target.on(DsRights.WRITE_PROPERTY, ATTRIBUTE, SET, CLASS);

  private static Descriptor list(Ace... entries) {
    return new Descriptor(
        0, Optional.of("owner"), Optional.empty(), Optional.of(List.of(entries)), Optional.empty());
  }

  private static Ace on(AceType type, UUID object, String trustee) {
    return Ace.of(type, 0, DsRights.WRITE_PROPERTY, trustee)
        .on(Optional.of(object), Optional.empty());
  }

  private static Verdict ask(Descriptor descriptor, Target target, String... who) {
    return AccessCheck.decide(descriptor, AccessCheck.Counts.surely(Set.of(who)::contains), target);
  }

  @Test
  void anAbsentListLetsEverybodyAndAnEmptyOneNobody() {
    Descriptor none =
        new Descriptor(0, Optional.empty(), Optional.empty(), Optional.empty(), Optional.empty());
    assertThat(ask(none, WRITE, "a")).isEqualTo(Verdict.YES);
    assertThat(ask(list(), WRITE, "a")).isEqualTo(Verdict.NO);
  }

  @Test
  void theFirstEntryThatSpeaksOfItDecides() {
    Ace allow = on(AceType.ALLOW_OBJECT, ATTRIBUTE, "a");
    Ace deny = on(AceType.DENY_OBJECT, ATTRIBUTE, "g");
    assertThat(ask(list(allow, deny), WRITE, "a", "g")).isEqualTo(Verdict.YES);
    assertThat(ask(list(deny, allow), WRITE, "a", "g")).isEqualTo(Verdict.NO);
    assertThat(ask(list(deny, allow), WRITE, "a")).isEqualTo(Verdict.YES);
  }

  @Test
  void aSetAndTheClassStandForTheirAttributesAndNotTheOtherWay() {
    Target whole = Target.on(DsRights.WRITE_PROPERTY, SET, CLASS);
    assertThat(ask(list(on(AceType.ALLOW_OBJECT, SET, "a")), WRITE, "a")).isEqualTo(Verdict.YES);
    assertThat(ask(list(on(AceType.ALLOW_OBJECT, CLASS, "a")), WRITE, "a")).isEqualTo(Verdict.YES);
    assertThat(ask(list(on(AceType.ALLOW_OBJECT, OTHER, "a")), WRITE, "a")).isEqualTo(Verdict.NO);
    assertThat(ask(list(on(AceType.ALLOW_OBJECT, ATTRIBUTE, "a")), whole, "a"))
        .isEqualTo(Verdict.NO);
    Ace all = Ace.of(AceType.ALLOW, 0, DsRights.WRITE_PROPERTY, "a");
    assertThat(ask(list(on(AceType.DENY_OBJECT, ATTRIBUTE, "a"), all), whole, "a"))
        .isEqualTo(Verdict.YES);
    assertThat(ask(list(on(AceType.DENY_OBJECT, SET, "a"), all), WRITE, "a")).isEqualTo(Verdict.NO);
  }

  @Test
  void entriesForBelowDoNotCountAndThoseThatNameAPartDoNotGiveTheWhole() {
    Ace below = Ace.of(AceType.ALLOW, Ace.CHILDREN | Ace.BELOW_ONLY, DsRights.ALL, "a");
    assertThat(ask(list(below), WRITE, "a")).isEqualTo(Verdict.NO);
    Ace part =
        Ace.of(AceType.ALLOW_OBJECT, 0, DsRights.DELETE, "a")
            .on(Optional.of(ATTRIBUTE), Optional.empty());
    assertThat(ask(list(part), Target.simple(DsRights.DELETE), "a")).isEqualTo(Verdict.NO);
  }

  @Test
  void theOwnerReadsAndChangesPermissionsUnlessAnEntrySaysWhatOwnersMay() {
    Target change = Target.simple(DsRights.READ_CONTROL | DsRights.WRITE_DAC);
    assertThat(ask(list(), change, "owner")).isEqualTo(Verdict.YES);
    assertThat(ask(list(), Target.simple(DsRights.DELETE), "owner")).isEqualTo(Verdict.NO);
    Ace owners = Ace.of(AceType.ALLOW, 0, DsRights.READ_CONTROL, WellKnown.OWNER_RIGHTS);
    assertThat(ask(list(owners), change, "owner", WellKnown.OWNER_RIGHTS)).isEqualTo(Verdict.NO);
    assertThat(
            ask(
                list(owners),
                Target.simple(DsRights.READ_CONTROL),
                "owner",
                WellKnown.OWNER_RIGHTS))
        .isEqualTo(Verdict.YES);
  }

  @ParameterizedTest
  @CsvSource({
    "ALLOW_CONDITIONAL, , UNDECIDED",
    "ALLOW_CONDITIONAL, ALLOW, YES",
    "ALLOW_CONDITIONAL, DENY, UNDECIDED",
    "DENY_CONDITIONAL, , NO",
    "DENY_CONDITIONAL, ALLOW, UNDECIDED",
    "DENY_CONDITIONAL, DENY, NO",
    "UNKNOWN, , UNDECIDED",
    "UNKNOWN, ALLOW, UNDECIDED",
    "UNKNOWN, DENY, UNDECIDED",
    "AUDIT, , NO",
    "MANDATORY_LABEL, ALLOW, YES"
  })
  void whatCannotBeJudgedIsTakenBothWays(AceType first, AceType second, Verdict verdict) {
    List<Ace> entries = new ArrayList<>();
    entries.add(Ace.of(first, 0, DsRights.WRITE_PROPERTY, "a"));
    if (second != null) {
      entries.add(Ace.of(second, 0, DsRights.WRITE_PROPERTY, "a"));
    }
    assertThat(ask(list(entries.toArray(Ace[]::new)), WRITE, "a")).isEqualTo(verdict);
  }

  @Test
  void genericRightsStandForWhatTheyMeanInADirectory() {
    Ace write = Ace.of(AceType.ALLOW, 0, DsRights.GENERIC_WRITE, "a");
    assertThat(ask(list(write), WRITE, "a")).isEqualTo(Verdict.YES);
    assertThat(ask(list(write), Target.simple(DsRights.DELETE), "a")).isEqualTo(Verdict.NO);
    Ace all = Ace.of(AceType.ALLOW, 0, DsRights.GENERIC_ALL, "a");
    assertThat(ask(list(all), Target.simple(DsRights.ALL), "a")).isEqualTo(Verdict.YES);
    assertThat(DsRights.words(DsRights.GENERIC_ALL, false)).containsExactly("full control");
    assertThat(DsRights.words(0x20_0000 | DsRights.DELETE, false))
        .containsExactly("delete", "0x200000");
  }

  @Test
  void theEntriesThatGiveAndTheOneThatStopsAreNamed() {
    Ace allow = on(AceType.ALLOW_OBJECT, SET, "g");
    Ace again = on(AceType.ALLOW_OBJECT, ATTRIBUTE, "a");
    Ace deny = on(AceType.DENY_OBJECT, ATTRIBUTE, "h");
    AccessCheck.Reason reason =
        AccessCheck.explain(
            list(allow, deny, again),
            AccessCheck.Counts.surely(Set.of("a", "g", "h")::contains),
            WRITE);
    assertThat(reason.verdict()).isEqualTo(Verdict.YES);
    assertThat(reason.gives()).containsExactly(0);
    assertThat(reason.stops()).contains(1);
    assertThat(
            AccessCheck.explain(
                    list(deny, again), AccessCheck.Counts.surely(Set.of("a", "h")::contains), WRITE)
                .stops())
        .contains(0);
  }

  /**
   * The algorithm of [MS-DTYP] 2.5.3.2 written again as it reads: a tree of three levels, each with
   * the rights that are left to be given; the leaf is what is asked for.
   */
  private static boolean bySpecification(Descriptor descriptor, Set<String> token, int bits) {
    List<UUID> tree = List.of(CLASS, SET, ATTRIBUTE);
    int[] left = {bits, bits, bits};
    for (Ace ace : descriptor.entries()) {
      if ((ace.flags() & Ace.BELOW_ONLY) != 0 || !token.contains(ace.trustee())) {
        continue;
      }
      int from = ace.object().isEmpty() ? 0 : tree.indexOf(ace.object().get());
      if (from < 0) {
        continue;
      }
      if (ace.type() == AceType.ALLOW || ace.type() == AceType.ALLOW_OBJECT) {
        for (int level = from; level < 3; level++) {
          left[level] &= ~ace.mask();
        }
      } else if ((left[2] & ace.mask()) != 0) {
        return false;
      }
    }
    return left[2] == 0;
  }

  @ParameterizedTest
  @ValueSource(longs = {1, 2, 3, 4, 5, 6, 7, 8, 9, 10})
  void randomListsDecideAsTheSpecificationReads(long seed) {
    Random random = new Random(seed);
    List<UUID> types = Arrays.asList(null, CLASS, SET, ATTRIBUTE, OTHER);
    int yes = 0;
    for (int n = 0; n < 2000; n++) {
      List<Ace> entries = new ArrayList<>();
      for (int i = 0; i < random.nextInt(8); i++) {
        Optional<UUID> object = Optional.ofNullable(types.get(random.nextInt(types.size())));
        boolean deny = random.nextInt(3) == 0;
        AceType type =
            object.isPresent()
                ? deny ? AceType.DENY_OBJECT : AceType.ALLOW_OBJECT
                : deny ? AceType.DENY : AceType.ALLOW;
        int flags = random.nextInt(4) == 0 ? Ace.CHILDREN | Ace.BELOW_ONLY : 0;
        int mask = 0x10 << random.nextInt(3) | (random.nextBoolean() ? 0x20 : 0);
        entries.add(
            Ace.of(type, flags, mask, "t" + random.nextInt(4)).on(object, Optional.empty()));
      }
      Set<String> token = Set.of("t" + random.nextInt(2), "t" + (2 + random.nextInt(2)));
      int bits = random.nextBoolean() ? 0x20 : 0x30;
      Descriptor descriptor = list(entries.toArray(Ace[]::new));
      boolean theirs = bySpecification(descriptor, token, bits);
      Verdict ours =
          AccessCheck.decide(
              descriptor,
              AccessCheck.Counts.surely(token::contains),
              Target.on(bits, ATTRIBUTE, SET, CLASS));
      assertThat(ours).as(entries + " for " + token).isEqualTo(theirs ? Verdict.YES : Verdict.NO);
      yes += theirs ? 1 : 0;
    }
    assertThat(yes).isGreaterThan(100);
  }

  @Test
  void whatIsInheritedIsWhatTheSpecificationHandsOn() {
    Ace here = Ace.of(AceType.ALLOW, 0, 1, "a");
    Ace down = Ace.of(AceType.ALLOW, Ace.CHILDREN, 2, "b");
    Ace next = Ace.of(AceType.ALLOW, Ace.CHILDREN | Ace.NEXT_ONLY | Ace.BELOW_ONLY, 4, "c");
    Ace users =
        Ace.of(AceType.ALLOW_OBJECT, Ace.CHILDREN | Ace.BELOW_ONLY, 8, "d")
            .on(Optional.empty(), Optional.of(CLASS));
    Ace creator = Ace.of(AceType.ALLOW, Ace.CHILDREN, 16, WellKnown.CREATOR_OWNER);
    Descriptor above = list(here, down, next, users, creator);
    List<Ace> same = Inheritance.inherited(above, CLASS, Optional.of("me"), Optional.empty());
    assertThat(same)
        .extracting(a -> a.trustee() + " " + a.mask() + " " + a.flags())
        .containsExactly(
            "b 2 18", "c 4 16", "d 8 18", "me 16 16", WellKnown.CREATOR_OWNER + " 16 26");
    List<Ace> other = Inheritance.inherited(above, OTHER, Optional.of("me"), Optional.empty());
    assertThat(other)
        .extracting(a -> a.trustee() + " " + a.mask() + " " + a.flags())
        .contains("d 8 26")
        .doesNotContain("d 8 18");
  }

  @Test
  void theUsualOrderIsDenyThenAllowThenInherited() {
    Ace deny = Ace.of(AceType.DENY, 0, 1, "a");
    Ace allow = Ace.of(AceType.ALLOW, 0, 1, "a");
    Ace inherited = Ace.of(AceType.DENY, Ace.INHERITED, 1, "a");
    assertThat(list(deny, allow, inherited).isCanonical()).isTrue();
    assertThat(list(allow, deny).isCanonical()).isFalse();
    assertThat(list(inherited, allow).isCanonical()).isFalse();
  }
}
