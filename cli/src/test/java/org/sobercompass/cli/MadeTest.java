package org.sobercompass.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
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

  /** Takes a member out of its group in the export. */
  private static void leave(Path root, Facts facts, Step.Leave leave) throws IOException {
    int group = subject(facts, leave.group());
    Path export = root.resolve("directory/" + facts.source(group) + ".ldif");
    String text = Files.exists(export) ? Files.readString(export).replace("\n ", "") : "";
    int from = text.indexOf("dn: " + facts.dn(group) + "\n");
    int end = text.indexOf("\n\n", from);
    String member = facts.dn(subject(facts, leave.member()));
    String login = facts.login(subject(facts, leave.member()));
    for (String line :
        List.of(
            "member: " + member + "\n",
            "uniqueMember: " + member + "\n",
            "memberUid: " + login + "\n")) {
      int at = text.indexOf(line, from);
      if (from >= 0 && at >= 0 && at < end) {
        Files.writeString(export, text.substring(0, at) + text.substring(at + line.length()));
        return;
      }
    }
    throw new IllegalArgumentException(leave.toString());
  }

  /** Makes all of a proposal in the files. */
  private static void make(Path root, Organization copy, Proposal proposal) throws IOException {
    List<Step> tables = new ArrayList<>();
    for (Step step : proposal.steps()) {
      if (step instanceof Step.Entry entry && EntryFiles.LISTS.contains(entry.system())) {
        new EntryFiles(root).remove(entry);
      } else if (step instanceof Step.Leave leave) {
        leave(root, copy.model().facts(), leave);
      } else {
        tables.add(step);
      }
    }
    if (!tables.isEmpty()) {
      copy.write(new Proposal("", tables), "", "");
    }
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
      Proposal proposal = Proposal.of("", trust.assessment().model(), changes);
      Path copy = folder.resolve("copy" + ended);
      if (!changes.isEmpty()) {
        DemoFiles.write(copy);
        make(copy, Organization.open(copy), proposal);
        Preview said = trust.preview(proposal);
        Set<String> after = keys(Organization.open(copy).findings());
        String which = finding.key().text() + " by " + proposal.steps();
        assertThat(after).as(which).doesNotContain(finding.key().text());
        assertThat(without(after, before)).as(which).isEqualTo(keys(said.begin()));
        assertThat(without(before, after)).as(which).isEqualTo(keys(said.end()));
        ended++;
      }
    }
    assertThat(ended).isGreaterThan(40);
  }

  @Test
  void aProposalThatWasKeptIsTheSameWhenItIsReadAgain() {
    Path demo = folder.resolve("demo");
    DemoFiles.write(demo);
    Organization trust = Organization.open(demo);
    int kept = 0;
    for (Finding finding : trust.findings()) {
      List<Change> changes = trust.advice(finding).changes();
      Proposal proposal = Proposal.of("of \"it\"", trust.assessment().model(), changes);
      if (!changes.isEmpty()) {
        Path file = folder.resolve("p" + kept++ + ".yaml");
        trust.keep(proposal, file);
        assertThat(trust.proposal(file, "p.yaml")).isEqualTo(proposal);
        trust.keep(proposal.inverse(), file);
        assertThat(trust.proposal(file, "p.yaml")).isEqualTo(proposal.inverse());
      }
    }
    assertThat(kept).isGreaterThan(15);
  }
}
