package org.sobercompass.bench;

import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.List;
import java.util.Set;
import org.sobercompass.core.audit.Triage;
import org.sobercompass.core.findings.Assessment;
import org.sobercompass.core.review.Review;
import org.sobercompass.organization.Organization;
import org.sobercompass.organization.Reviews;
import org.sobercompass.report.answers.AnswerContext;
import org.sobercompass.report.answers.ReviewAnswers;
import org.sobercompass.report.data.AnswerTable;
import org.sobercompass.report.page.PageContent;
import org.sobercompass.report.page.Pages;
import org.sobercompass.report.page.ReviewPage;
import org.sobercompass.report.page.Thing;

/**
 * Times what is handed over, from opening a workspace on: {@code PageYardstick DIR}. The page of
 * the whole organization, the page of one application and of one account, the sheets of a review.
 */
public final class PageYardstick {
  private PageYardstick() {}

  /** Runs it on a workspace that {@link Generator} wrote. */
  public static void main(String[] args) {
    long begun = System.nanoTime();
    Organization organization = Organization.open(Path.of(args[0]));
    Assessment assessment = organization.assessment();
    begun = tell("opened", begun);
    Triage sorted = organization.triage();
    begun = tell(sorted.open().size() + " findings", begun);
    AnswerContext ask =
        new AnswerContext(
            organization.model(),
            organization.workspace().zone(),
            organization.problems(),
            assessment.gaps());
    begun = page(pages(organization, ask, sorted).organization(), "whole organization", begun);
    begun =
        page(
            pages(organization, ask, sorted)
                .of(List.of(new Thing.Application(organization.model().systems().get(0)))),
            "one application",
            begun);
    begun =
        page(
            pages(organization, ask, sorted).of(List.of(new Thing.Account(17))),
            "one account",
            begun);
    Review review = Reviews.of(organization, sorted.open(), Set.of());
    begun = tell(review.byId().size() + " items to confirm", begun);
    ReviewAnswers answers = new ReviewAnswers(ask, assessment.powers().model(), sorted.open());
    long bytes = 0;
    for (Review.Sheet sheet : review.sheets()) {
      AnswerTable table = answers.sheet(sheet);
      bytes += ReviewPage.of("somebody", "somebody", table).html().length();
    }
    tell(review.sheets().size() + " sheets as pages, " + (bytes >> 20) + " MiB", begun);
    Runtime runtime = Runtime.getRuntime();
    System.out.printf("%,d MiB used%n", (runtime.totalMemory() - runtime.freeMemory()) >> 20);
  }

  private static Pages pages(Organization organization, AnswerContext ask, Triage sorted) {
    return new Pages(ask, organization.assessment(), organization.owners(), sorted);
  }

  private static long page(PageContent page, String what, long begun) {
    int size = Pages.html(page).getBytes(StandardCharsets.UTF_8).length;
    return tell("page of " + what + ", " + (size >> 10) + " KiB", begun);
  }

  private static long tell(String what, long begun) {
    System.out.printf("%,7d ms: %s%n", (System.nanoTime() - begun) / 1_000_000, what);
    return System.nanoTime();
  }
}
