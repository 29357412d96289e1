package org.sobercompass.cli;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.Callable;
import org.jspecify.annotations.Nullable;
import org.sobercompass.core.review.Gathered;
import org.sobercompass.core.review.Review;
import org.sobercompass.organization.Reviews;
import org.sobercompass.sources.review.ReviewFolder;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** {@code sober review}. */
@Command(
    name = "review",
    mixinStandardHelpOptions = true,
    description = {
      "Asks those who answer for rights whether they are still needed, and gathers what they say.",
      "Owners of applications, nodes and folders get what is given there, owners of groups who is"
          + " listed in them, owners of admin scopes who administers them, managers what their"
          + " people are given by name.",
      ""
    },
    footer = {
      "",
      "Examples, on the demo:",
      "  sober review who",
      "  sober review sheets november",
      "  sober review gather november",
      "  sober review sheets november-2 --left-of november",
      "Sheets are written into the folder as pages to fill in, as workbooks and as CSV. What comes"
          + " back is",
      "put into its folder answers, or named after it. What was decided becomes a proposal, which"
          + " sober",
      "preview shows and sober amend carries on; --waive also accepts the findings that were kept"
          + " until a day."
    })
final class ReviewCommand implements Callable<Integer> {
  @Mixin private Inputs inputs = new Inputs();

  @Parameters(index = "0", paramLabel = "WHAT", description = "who, sheets or gather")
  private String what = "";

  @Parameters(
      index = "1",
      arity = "0..1",
      paramLabel = "DIR",
      description = "the folder of the review")
  private @Nullable Path folder;

  @Parameters(
      index = "2..*",
      paramLabel = "FILE",
      description = "with gather: filled-in sheets (.csv, .xlsx) besides those in DIR/answers")
  private List<Path> files = new ArrayList<>();

  @Option(
      names = "--since",
      paramLabel = "SURVEY",
      description = "an earlier survey, to tell what is new (default: the latest)")
  private @Nullable Path since;

  @Option(
      names = "--left-of",
      paramLabel = "DIR",
      description =
          "with sheets: what an earlier review left open, and what was said to be somebody else's")
  private @Nullable Path leftOf;

  @Option(
      names = "--only",
      paramLabel = "WHO",
      description = "with sheets: only for this account or group")
  private @Nullable String only;

  @Option(
      names = "--waive",
      description = "with gather: write waivers for findings that were kept until a day")
  private boolean waive;

  @Override
  public Integer call() {
    inputs.open(Reviews.ATTRIBUTES);
    Reviewing reviewing = new Reviewing(inputs, since);
    switch (what) {
      case "who" -> inputs.print(reviewing.answers().sheets(reviewing.review()));
      case "sheets" -> sheets(reviewing);
      case "gather" -> {
        return gather(reviewing);
      }
      default ->
          throw new UsageException("cannot review " + what + "; expected who, sheets or gather");
    }
    return Exit.OK;
  }

  private Path folder() {
    if (folder == null) {
      throw new UsageException("expected a folder, as in: sober review " + what + " november");
    }
    return folder;
  }

  private void sheets(Reviewing reviewing) {
    if (new ReviewFolder(folder()).isThere()) {
      throw new UsageException(
          folder() + " holds a review already; expected a folder that is not there yet");
    }
    if (leftOf != null) {
      reviewing.keepLeftOf(new ReviewFolder(leftOf));
    }
    List<Review.Sheet> sheets = reviewing.sheets(only);
    int written = new SheetFiles(inputs, folder(), reviewing).write(sheets);
    inputs.print(reviewing.answers().sheets(reviewing.review()));
    inputs
        .err()
        .println(
            "Written: "
                + written
                + (written == 1 ? " sheet" : " sheets")
                + " in "
                + folder().resolve(ReviewFolder.SHEETS)
                + ", each as .html, .xlsx and .csv. What comes back goes into "
                + folder().resolve(ReviewFolder.ANSWERS)
                + "; then: sober review gather "
                + folder());
  }

  private int gather(Reviewing reviewing) {
    for (Path file : files) {
      if (!Files.exists(file)) {
        throw new UsageException("there is no file " + file);
      }
    }
    Gathered gathered = reviewing.gather(new ReviewFolder(folder()), files);
    inputs.print(reviewing.answers().progress(reviewing.review(), gathered));
    new Following(inputs, folder(), reviewing).after(gathered, waive);
    boolean whole =
        gathered.in(Gathered.State.OPEN).isEmpty()
            && gathered.in(Gathered.State.CONTRADICTED).isEmpty()
            && gathered.in(Gathered.State.NOT_MINE).isEmpty();
    return whole ? Exit.OK : Exit.NO;
  }
}
