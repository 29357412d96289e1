package org.sobercompass.core.comparison;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import org.junit.jupiter.api.Test;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.FactsBuilder;
import org.sobercompass.core.facts.FactsSource;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.facts.SubjectRow;
import org.sobercompass.core.facts.Via;
import org.sobercompass.core.findings.Assessment;
import org.sobercompass.core.problem.Problems;

/** Whoever is named by what is read now as having changed or created something. */
class WhoDidTest {
  /** Ann, Bea and a group; with or without the changes of the day. */
  private static Assessment reading(boolean later) {
    FactsBuilder builder =
        new FactsBuilder(
            List.of("modifiersname", "creatorsname"), dn -> dn.toLowerCase(), new Problems());
    FactsSource source = builder.source("dir");
    int ann = add(source, SubjectKind.ACCOUNT, "uid=ann", later ? Facts.DISABLED : 0);
    int bea = add(source, SubjectKind.ACCOUNT, "uid=bea", 0);
    int crew = add(source, SubjectKind.GROUP, "cn=crew", 0);
    source.refer(crew, Via.MEMBER, FactsBuilder.Space.DN, "uid=ann");
    if (later) {
      source.refer(crew, Via.MEMBER, FactsBuilder.Space.DN, "uid=bea");
      source.values(ann, "modifiersname", List.of("uid=bea"));
      source.values(crew, "modifiersname", List.of("cn=admin,dc=elsewhere"));
      source.values(bea, "modifiersname", List.of("uid=ann"));
      int cy = add(source, SubjectKind.ACCOUNT, "uid=cy", 0);
      source.values(cy, "creatorsname", List.of("UID=BEA"));
    }
    Facts facts = builder.build();
    return Assessment.of(
        AccessModel.of(facts, List.of(), Instant.ofEpochSecond(later ? 20 : 10), Optional.empty()),
        List.of());
  }

  private static int add(FactsSource source, SubjectKind kind, String dn, int flags) {
    return source.add(new SubjectRow(kind, dn, dn, dn, dn, dn, "", flags, Facts.NEVER));
  }

  @Test
  void accountsGroupsAndNewEntriesSayWhoDidIt() {
    Map<String, String> by = new TreeMap<>();
    for (Cause cause : Comparison.of(reading(false), reading(true)).causes()) {
      String what =
          cause
              .change()
              .map(
                  change ->
                      change.<String>fold(
                          moved -> "membership", own -> "system", self -> "account"))
              .orElse(cause.kind().name());
      by.put(what, cause.by());
    }
    assertThat(by)
        .isEqualTo(
            Map.of("membership", "cn=admin,dc=elsewhere", "account", "uid=bea", "NEW", "uid=bea"));
  }
}
