package org.sobercompass.examples;

import java.nio.file.Path;
import org.sobercompass.core.audit.Preview;
import org.sobercompass.core.findings.FindingKind;
import org.sobercompass.core.proposal.Proposal;
import org.sobercompass.organization.Organization;
import org.sobercompass.report.findings.FindingWords;

/**
 * Gives a role unless that begins a conflict, and tells what would end it again: {@code
 * GiveARoleSafely DIR APPLICATION ROLE WHO NODE}.
 */
public final class GiveARoleSafely {
  private GiveARoleSafely() {}

  public static void main(String[] args) {
    Organization trust = Organization.open(Path.of(args[0]));
    Proposal proposal = trust.assigning(args[1], args[2], args[3], args[4]);
    Preview preview = trust.preview(proposal);
    preview
        .begin()
        .forEach(finding -> System.out.println("begins: " + FindingWords.sentence(finding)));
    System.out.println(preview.effects().gives().size() + " permissions more");
    if (preview.begin().stream().anyMatch(f -> f.kind() == FindingKind.SEPARATION_OF_DUTIES)) {
      System.out.println("not given");
    } else {
      trust.write(proposal, "an example", "to show it").forEach((f, n) -> System.out.println(f));
      trust.keep(proposal.inverse(), Path.of(args[0], "proposals", "take-back.yaml"));
    }
  }
}
