package org.sobercompass.cli;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.findings.Finding;
import org.sobercompass.core.review.Gathered;
import org.sobercompass.core.review.Review;
import org.sobercompass.organization.Organization;
import org.sobercompass.organization.Reviews;
import org.sobercompass.report.answers.ReviewAnswers;
import org.sobercompass.sources.NameResolver;
import org.sobercompass.sources.review.ReviewFolder;
import org.sobercompass.sources.workspace.Surveys;
import org.sobercompass.sources.workspace.Workspace;

/** What a review is made of: what there is to confirm, and how it is said. */
final class Reviewing {
  private final Inputs inputs;
  private Review review;
  private final List<Finding> findings;
  private final ReviewAnswers answers;

  /**
   * Plans a review.
   *
   * @param since an earlier survey, to tell what is new; the latest of the workspace when null
   */
  Reviewing(Inputs inputs, @Nullable Path since) {
    this.inputs = inputs;
    Organization organization = inputs.organization();
    this.findings = organization.triage().open();
    this.review = Reviews.of(organization, findings, earlier(since).orElse(Set.of()));
    this.answers =
        new ReviewAnswers(inputs.judgedAsk(), inputs.assessment().powers().model(), findings);
  }

  private Optional<Set<String>> earlier(@Nullable Path since) {
    Optional<Path> survey =
        since != null
            ? Optional.of(since)
            : inputs.survey != null
                ? Optional.empty()
                : Surveys.all(inputs.root).stream().findFirst();
    return survey
        .map(path -> Workspace.ofSurvey(path, Reviews.ATTRIBUTES))
        .map(read -> Reviews.of(Organization.of(read), List.of(), Set.of()).byId().keySet());
  }

  Review review() {
    return review;
  }

  /** Asks only what an earlier review left open, and of whom it was said to be. */
  void keepLeftOf(ReviewFolder earlier) {
    Gathered gathered = gather(earlier, List.of());
    review = gathered.left(review, this::fitting);
  }

  /**
   * What came back to a review, of what was asked there; from then on that is the review.
   *
   * @param more filled-in sheets besides those in its folder
   */
  Gathered gather(ReviewFolder folder, List<Path> more) {
    Map<Integer, Set<String>> rows = new TreeMap<>();
    for (ReviewFolder.Asked line : folder.asked()) {
      List<Integer> who = fitting(line.key());
      rows.computeIfAbsent(who.size() == 1 ? who.get(0) : -1, k -> new LinkedHashSet<>())
          .add(line.row());
    }
    review = review.asked(rows);
    List<Path> files = new ArrayList<>(folder.answers());
    files.addAll(more);
    return Gathered.of(review, folder.decisions(files, ReviewAnswers.SAID, ReviewAnswers::check));
  }

  /** The accounts and groups that a name fits. */
  private List<Integer> fitting(String name) {
    Facts facts = inputs.model().facts();
    List<Integer> found = NameResolver.find(facts, SubjectKind.ACCOUNT, name);
    return found.isEmpty() ? NameResolver.find(facts, SubjectKind.GROUP, name) : found;
  }

  List<Finding> findings() {
    return findings;
  }

  ReviewAnswers answers() {
    return answers;
  }

  /** The sheets of all, or of one. */
  List<Review.Sheet> sheets(@Nullable String only) {
    if (only == null) {
      return review.sheets();
    }
    int who = inputs.names().subject(only);
    List<Review.Sheet> own =
        review.sheets().stream().filter(sheet -> sheet.responsible() == who).toList();
    if (own.isEmpty()) {
      throw new UsageException(only + " answers for nothing that could be confirmed");
    }
    return own;
  }
}
