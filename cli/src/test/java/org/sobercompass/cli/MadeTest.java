package org.sobercompass.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.sobercompass.core.audit.Preview;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.findings.Finding;
import org.sobercompass.core.key.Key;
import org.sobercompass.core.proposal.Proposal;
import org.sobercompass.core.proposal.Step;
import org.sobercompass.core.system.Change;
import org.sobercompass.organization.Organization;

/** What is proposed against the demo's findings is made in its files, which are then read again. */
class MadeTest {
  @TempDir Path folder;

  private static Set<String> keys(List<Finding> findings) {
    return findings.stream()
        .map(finding -> finding.key().text())
        .collect(Collectors.toCollection(TreeSet::new));
  }

  private static Set<String> without(Set<String> some, Set<String> others) {
    Set<String> left = new TreeSet<>(some);
    left.removeAll(others);
    return left;
  }

  private static int subject(Facts facts, Key key) {
    for (int subject = 0; subject < facts.subjects(); subject++) {
      if (facts.key(subject).equals(key)) {
        return subject;
      }
    }
    throw new IllegalArgumentException(key.text());
  }

  /** Takes a member out of its group in the export; whether the export lists it by its DN. */
  private static boolean leave(Path root, Facts facts, Step.Leave leave) throws IOException {
    int group = subject(facts, leave.group());
    Path export = root.resolve("directory/" + facts.source(group) + ".ldif");
    String text = Files.exists(export) ? Files.readString(export) : "";
    int from = text.indexOf("dn: " + facts.dn(group) + "\n");
    String line = "member: " + facts.dn(subject(facts, leave.member())) + "\n";
    int end = from < 0 ? -1 : text.indexOf("\n\n", from);
    int at = from < 0 ? -1 : text.indexOf(line, from);
    if (at < 0 || at > end) {
      return false;
    }
    Files.writeString(export, text.substring(0, at) + text.substring(at + line.length()));
    return true;
  }

  /** Whether all of a proposal could be made in the files. */
  private static boolean made(Path root, Organization copy, Proposal proposal) throws IOException {
    List<Step> tables = new ArrayList<>();
    for (Step step : proposal.steps()) {
      Optional<Step.Leave> leave =
          step.fold(
              j -> Optional.empty(), Optional::of, a -> Optional.empty(), w -> Optional.empty());
      if (leave.isEmpty()) {
        tables.add(step);
      } else if (!leave(root, copy.model().facts(), leave.get())) {
        return false;
      }
    }
    if (!tables.isEmpty()) {
      copy.write(new Proposal("", tables), "", "");
    }
    return true;
  }

  @Test
  void whatIsProposedEndsTheFindingAndDoesWhatThePreviewSaid() throws IOException {
    Path demo = folder.resolve("demo");
    DemoFiles.write(demo);
    Organization trust = Organization.open(demo);
    List<Finding> findings = trust.findings();
    Set<String> before = keys(findings);
    int ended = 0;
    for (Finding finding : findings) {
      List<Change> changes = trust.advice(finding).changes();
      Optional<Proposal> proposal =
          changes.isEmpty() ? Optional.empty() : Proposal.of("", trust.model(), changes);
      Path copy = folder.resolve("copy" + ended);
      if (proposal.isPresent()) {
        DemoFiles.write(copy);
        if (made(copy, Organization.open(copy), proposal.get())) {
          Preview said = trust.preview(proposal.get());
          Set<String> after = keys(Organization.open(copy).findings());
          String which = finding.key().text() + " by " + proposal.get().steps();
          assertThat(after).as(which).doesNotContain(finding.key().text());
          assertThat(without(after, before)).as(which).isEqualTo(keys(said.begin()));
          assertThat(without(before, after)).as(which).isEqualTo(keys(said.end()));
          ended++;
        }
      }
    }
    assertThat(ended).isGreaterThan(15);
  }

  @Test
  void aProposalThatWasKeptIsTheSameWhenItIsReadAgain() {
    Path demo = folder.resolve("demo");
    DemoFiles.write(demo);
    Organization trust = Organization.open(demo);
    int kept = 0;
    for (Finding finding : trust.findings()) {
      List<Change> changes = trust.advice(finding).changes();
      Optional<Proposal> proposal = Proposal.of("of \"it\"", trust.model(), changes);
      if (!changes.isEmpty() && proposal.isPresent()) {
        Path file = folder.resolve("p" + kept++ + ".yaml");
        trust.keep(proposal.get(), file);
        assertThat(trust.proposal(file, "p.yaml")).isEqualTo(proposal.get());
        trust.keep(proposal.get().inverse(), file);
        assertThat(trust.proposal(file, "p.yaml")).isEqualTo(proposal.get().inverse());
      }
    }
    assertThat(kept).isGreaterThan(15);
  }
}
