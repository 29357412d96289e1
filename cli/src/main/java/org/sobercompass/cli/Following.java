package org.sobercompass.cli;

import java.nio.file.Path;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.findings.Finding;
import org.sobercompass.core.key.Key;
import org.sobercompass.core.proposal.Proposal;
import org.sobercompass.core.review.Decision;
import org.sobercompass.core.review.Gathered;
import org.sobercompass.core.review.Gathered.Outcome;
import org.sobercompass.core.store.IntList;
import org.sobercompass.organization.WaiverText;
import org.sobercompass.report.findings.FindingWords;

/** What follows from a review: a proposal, waivers, what is to be done by hand later. */
final class Following {
  private static final String PROPOSAL = "decided.yaml";

  private final Inputs inputs;
  private final Path folder;
  private final Reviewing reviewing;

  Following(Inputs inputs, Path folder, Reviewing reviewing) {
    this.inputs = inputs;
    this.folder = folder;
    this.reviewing = reviewing;
  }

  void after(Gathered gathered, boolean waive) {
    Instant asOf = inputs.model().asOf();
    ZoneId zone = inputs.workspace().zone();
    Proposal proposal = gathered.proposal(asOf, zone);
    if (!proposal.steps().isEmpty()) {
      Path file = folder.resolve(PROPOSAL);
      inputs.organization().keep(proposal, file);
      inputs
          .err()
          .println(
              "Kept: "
                  + file
                  + ", "
                  + proposal.steps().size()
                  + (proposal.steps().size() == 1 ? " change" : " changes")
                  + "; sober preview "
                  + file
                  + " shows what it would do.");
    }
    reviewing
        .answers()
        .byHand(gathered.byHand(asOf, zone))
        .forEach(line -> inputs.err().println(line + "."));
    waivers(gathered, waive);
  }

  /** Findings that somebody decided to live with until a day, with why. */
  private void waivers(Gathered gathered, boolean write) {
    Set<String> written = new HashSet<>();
    int ready = 0;
    for (Outcome one : gathered.in(Gathered.State.KEPT_UNTIL)) {
      Decision decision = one.decisions().get(0);
      LocalDate day = decision.until().orElseThrow();
      for (String id : one.item().findings()) {
        Finding finding = finding(id);
        if (finding != null && !decision.comment().isEmpty() && written.add(id + one.item().id())) {
          ready++;
          if (write) {
            write(finding, subjects(finding, one), decision, day);
          }
        }
      }
    }
    if (ready > 0 && !write) {
      inputs
          .err()
          .println(
              ready
                  + (ready == 1 ? " finding was" : " findings were")
                  + " kept until a day, with a reason; --waive accepts "
                  + (ready == 1 ? "it" : "them")
                  + " until then.");
    }
  }

  private void write(Finding finding, List<Key> subjects, Decision decision, LocalDate day) {
    WaiverText waivers = new WaiverText(inputs.root);
    boolean done = waivers.add(finding, subjects, decision.by(), decision.comment(), day);
    inputs
        .err()
        .println(
            done
                ? "Accepted until "
                    + day
                    + ", in "
                    + waivers.file()
                    + ": "
                    + FindingWords.sentence(finding)
                    + "."
                : waivers.file()
                    + " cannot be edited safely; it was left as it is. Put in:\n"
                    + WaiverText.text(finding, subjects, decision.by(), decision.comment(), day));
  }

  private @Nullable Finding finding(String id) {
    return reviewing.findings().stream().filter(f -> f.id().equals(id)).findFirst().orElse(null);
  }

  private List<Integer> accounts(int subject) {
    Facts facts = inputs.model().facts();
    if (subject < facts.accounts()) {
      return subject < 0 ? List.of() : List.of(subject);
    }
    IntList found = new IntList();
    if (facts.kind(subject) != SubjectKind.IMPLICIT) {
      inputs.model().widest().walker().accounts(subject, found);
    }
    List<Integer> all = new ArrayList<>();
    for (int i = 0; i < found.size(); i++) {
      all.add(found.get(i));
    }
    return all;
  }

  /** Of those a finding concerns, the ones that have the item; all where none of them does. */
  private List<Key> subjects(Finding finding, Outcome one) {
    Facts facts = inputs.model().facts();
    int subject = one.item().subject();
    Set<String> keys = new HashSet<>();
    if (subject >= 0) {
      keys.add(facts.key(subject).text());
    }
    for (int account : accounts(subject)) {
      // A finding about a person names all accounts of the person.
      inputs
          .assessment()
          .persons()
          .accounts(account)
          .forEach(own -> keys.add(facts.key(own).text()));
    }
    List<Key> own = new ArrayList<>();
    finding.subjects().stream().filter(key -> keys.contains(key.text())).forEach(own::add);
    return own.isEmpty() ? finding.subjects() : own;
  }
}
