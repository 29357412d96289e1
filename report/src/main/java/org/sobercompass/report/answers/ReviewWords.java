package org.sobercompass.report.answers;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.function.IntPredicate;
import java.util.stream.Collectors;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.access.Words;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.findings.Finding;
import org.sobercompass.core.review.Gathered;
import org.sobercompass.core.review.Review;
import org.sobercompass.core.review.ReviewItem;
import org.sobercompass.core.review.ReviewItem.Trait;
import org.sobercompass.core.system.Change;
import org.sobercompass.core.system.Grant;
import org.sobercompass.core.system.RoleInfo;
import org.sobercompass.report.findings.FindingWords;

/** What is to be confirmed in a review, in plain words. Not thread-safe. */
public final class ReviewWords {
  private static final int RIGHTS = 5;
  private static final int GIVEN = 4;
  private static final int FINDINGS = 2;

  private final AnswerContext ask;
  private final AccessModel model;
  private final Facts facts;
  private final Map<String, Finding> findings = new HashMap<>();
  private final Map<Integer, List<String>> carried = new HashMap<>();
  private boolean counted;

  /**
   * Words for a review.
   *
   * @param model with the systems of admin scopes, where the review has items of them
   */
  public ReviewWords(AnswerContext ask, AccessModel model, List<Finding> all) {
    this.ask = ask;
    this.model = model;
    this.facts = model.facts();
    all.forEach(finding -> findings.put(finding.id(), finding));
  }

  /** As what somebody answers for a line. */
  public String as(Review.Line line) {
    return switch (line.capacity()) {
      case APPLICATION -> "owner of " + system(line.of());
      case PLACE -> {
        int blank = line.of().indexOf(' ');
        yield "owner of "
            + line.of().substring(blank + 1)
            + " of "
            + system(line.of().substring(0, blank));
      }
      case GROUP -> "owner of the group " + subject(line.of());
      case OBJECT -> "owner of " + subject(line.of());
      case SCOPE -> "owner of the admin scope " + line.of();
      case MANAGER -> "manager of " + subject(line.of());
    };
  }

  private String system(String id) {
    return model.system(id).map(view -> view.system().name()).orElse(id);
  }

  private String subject(String key) {
    for (SubjectKind kind : List.of(SubjectKind.GROUP, SubjectKind.ACCOUNT, SubjectKind.UNIT)) {
      List<Integer> found = facts.names().find(kind, key, key);
      if (found.size() == 1) {
        return Words.subject(facts, found.get(0));
      }
    }
    return key;
  }

  /** Who has it, and how many accounts that is. */
  public String who(ReviewItem item) {
    String name =
        item.subject() >= 0
            ? Words.subject(facts, item.subject())
            : grant(item).map(g -> Words.trustee(facts, g)).orElse("nobody");
    boolean many = item.subject() >= facts.accounts() && item.reached() > 0;
    return many
        ? name + " (" + AnswerContext.count(item.reached(), "account", "accounts") + ")"
        : name;
  }

  private Optional<Grant> grant(ReviewItem item) {
    return item.taken().get(0) instanceof Change.AssignmentRemoved removed
        ? Optional.of(model.view(removed.system()).grants().get(removed.grant()))
        : Optional.empty();
  }

  /** What is given. */
  public String has(ReviewItem item) {
    if (item.delegation().isPresent()) {
      return "delegated: " + item.delegation().get().may();
    }
    if (item.taken().get(0) instanceof Change.AssignmentRemoved removed) {
      SystemView view = model.view(removed.system());
      Grant grant = view.grants().get(removed.grant());
      RoleInfo role = view.system().roles().get(grant.role());
      if (view.system().isOfLists()) {
        return role.name() + " (an entry of " + view.system().name() + ")";
      }
      boolean admin = removed.system() >= model.systems().size();
      return (admin ? "the admin role " : "the role ")
          + role.name()
          + (admin ? "" : " of " + view.system().name())
          + rights(view, role);
    }
    Change.MembershipRemoved listed = (Change.MembershipRemoved) item.taken().get(0);
    List<String> gives = carried(listed.group());
    return "membership in "
        + Words.subject(facts, listed.group())
        + (gives.isEmpty()
            ? ""
            : ", which gives "
                + String.join("; ", gives.subList(0, Math.min(GIVEN, gives.size())))
                + (gives.size() > GIVEN ? "; and " + (gives.size() - GIVEN) + " more" : ""));
  }

  /** The strongest rights that a role gives, and the weakest that it takes away. */
  private static String rights(SystemView view, RoleInfo role) {
    List<Integer> gives = some(view, role::allows);
    List<Integer> contained = new ArrayList<>();
    gives.forEach(right -> contained.addAll(view.rights().contains(right)));
    gives.removeAll(contained);
    List<Integer> all = some(view, role::denies);
    List<Integer> takes = new ArrayList<>(all);
    takes.removeIf(right -> view.rights().contains(right).stream().anyMatch(all::contains));
    String taken =
        takes.isEmpty()
            ? ""
            : (gives.isEmpty() ? ", which" : "; it")
                + " takes away "
                + listed(view, takes)
                + (takes.size() < all.size() ? ", with all that contains it" : "");
    return (gives.isEmpty() ? "" : ": " + listed(view, gives)) + taken;
  }

  private static List<Integer> some(SystemView view, IntPredicate asked) {
    List<Integer> some = new ArrayList<>();
    for (int right = 0; right < view.rights().size(); right++) {
      if (asked.test(right) && !view.rights().isMinor(right)) {
        some.add(right);
      }
    }
    return some;
  }

  private static String listed(SystemView view, List<Integer> rights) {
    return rights.stream().limit(RIGHTS).map(view.rights()::text).collect(Collectors.joining(", "))
        + (rights.size() > RIGHTS ? " and " + (rights.size() - RIGHTS) + " more" : "");
  }

  /** What is given to a group itself, in words. */
  private List<String> carried(int group) {
    if (!counted) {
      counted = true;
      model.systems().forEach(this::carry);
      model.delegated().stream().filter(v -> !v.system().isOfLists()).forEach(this::carry);
    }
    return carried.getOrDefault(group, List.of());
  }

  private void carry(SystemView view) {
    for (Grant grant : view.grants()) {
      boolean counts =
          grant.subject() >= facts.accounts()
              && grant.activeAt(model.asOf().getEpochSecond())
              && !grant.declared();
      List<String> of =
          counts ? carried.computeIfAbsent(grant.subject(), k -> new ArrayList<>()) : List.of();
      if (counts && of.size() < 2 * GIVEN) {
        String text =
            view.system().roles().get(grant.role()).name()
                + " of "
                + view.system().name()
                + place(view, grant);
        if (!of.contains(text)) {
          of.add(text);
        }
      }
    }
  }

  private static String place(SystemView view, Grant grant) {
    String place = Words.place(view, grant);
    return view.resources().size() == 1
        ? ""
        : place.equals("everywhere") ? " everywhere" : " at " + place;
  }

  /** Where it counts. */
  public String where(ReviewItem item) {
    if (item.taken().get(0) instanceof Change.AssignmentRemoved removed) {
      SystemView view = model.view(removed.system());
      Grant grant = view.grants().get(removed.grant());
      return item.delegation().isPresent()
          ? view.resources().name(grant.resource())
          : Words.place(view, grant);
    }
    return "";
  }

  /** Since when, by whom and why it is there, where that is known. */
  public String because(ReviewItem item) {
    return grant(item).map(this::because).orElse("");
  }

  private String because(Grant grant) {
    List<String> parts = new ArrayList<>();
    if (!grant.grantedBy().isEmpty()) {
      parts.add("given by " + grant.grantedBy());
    }
    if (!grant.reason().isEmpty()) {
      parts.add(grant.reason());
    }
    String from = ask.moment(grant.from());
    String until = ask.moment(grant.until());
    if (!from.isEmpty()) {
      parts.add("from " + from);
    }
    if (!until.isEmpty()) {
      parts.add("ends before " + until);
    }
    return String.join("; ", parts);
  }

  /** What is unusual about it: in a word, then as the findings say it. */
  public String unusual(Review.Line line) {
    ReviewItem item = line.item();
    List<String> parts = new ArrayList<>();
    if (line.own()) {
      parts.add("your own: somebody else should confirm it");
    }
    for (Trait trait : item.traits()) {
      if (trait != Trait.OTHER_FINDING) {
        parts.add(word(trait));
      }
    }
    item.findings().stream()
        .limit(FINDINGS)
        .filter(findings::containsKey)
        .forEach(id -> parts.add(sentence(id)));
    int more = item.findings().size() - FINDINGS;
    if (more > 0) {
      parts.add("and " + AnswerContext.count(more, "more finding", "more findings"));
    }
    return String.join("; ", parts);
  }

  private String sentence(String id) {
    Finding finding = findings.get(id);
    return finding == null ? id : FindingWords.sentence(finding) + " [" + id + "]";
  }

  /** A trait in words. */
  public static String word(Trait trait) {
    return switch (trait) {
      case NEW -> "new since the last survey";
      case CONFLICTING -> "in conflict";
      case POWERFUL -> "powerful";
      case UNUSED -> "hardly used";
      case UNLIKE_PEERS -> "hardly any peer has it";
      case HOLDER_GONE -> "whoever has it is gone or inactive";
      case BY_NAME -> "given by name";
      case WIDE -> "given to very many";
      case OTHER_FINDING -> "something was found";
    };
  }

  /** What is recommended, in words. */
  public static String advice(ReviewItem item) {
    return switch (item.advice()) {
      case KEEP -> "keep";
      case LOOK -> "look closely";
      case TAKE_AWAY -> "take away";
    };
  }

  /** A state of an item in words. */
  public static String state(Gathered.State state) {
    return state.name().toLowerCase(Locale.ROOT).replace('_', ' ');
  }
}
