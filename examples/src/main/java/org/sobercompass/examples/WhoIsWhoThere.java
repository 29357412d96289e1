package org.sobercompass.examples;

import java.nio.file.Path;
import java.time.LocalDate;
import java.util.Optional;
import org.sobercompass.core.carry.CarryPlan;
import org.sobercompass.core.carry.LossAndGain;
import org.sobercompass.core.crosswalk.CrosswalkTable;
import org.sobercompass.core.crosswalk.Ruling;
import org.sobercompass.core.crosswalk.Sureness;
import org.sobercompass.organization.Crosswalks;
import org.sobercompass.organization.Organization;

/**
 * Carries the rights of all whose counterpart is certain, and tells what each loses and gains:
 * {@code WhoIsWhoThere DIR FROM TO}.
 */
public final class WhoIsWhoThere {
  private WhoIsWhoThere() {}

  public static void main(String[] args) {
    Organization trust = Organization.open(Path.of(args[0]));
    Crosswalks crosswalks = new Crosswalks(trust, args[1], args[2]);
    CrosswalkTable table =
        crosswalks
            .table()
            .ruled(
                row -> row.sure().equals(Optional.of(Sureness.CERTAIN)),
                Ruling.SAME,
                "an example",
                LocalDate.now());
    Crosswalks decided = crosswalks.deciding(table.crosswalk());
    LossAndGain result = decided.lossAndGain(decided.carry(CarryPlan.USUAL).proposal("merge"));
    for (LossAndGain.Person person : result.persons()) {
      System.out.println(
          trust.model().facts().title(person.to())
              + ": "
              + person.count(LossAndGain.Outcome.LESS)
              + " less, "
              + person.count(LossAndGain.Outcome.MORE)
              + " more");
    }
    System.out.println(result.others().isNone() ? "nobody else" : "others too");
  }
}
