package org.sobercompass.sources;

import java.util.EnumSet;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import org.sobercompass.core.facts.Via;
import org.sobercompass.core.filter.Filter;
import org.sobercompass.core.filter.FilterParser;
import org.sobercompass.core.filter.FilterSyntaxException;
import org.sobercompass.core.membership.MembershipProfile;
import org.sobercompass.core.membership.Sight;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.sources.directory.DnForm;
import org.sobercompass.sources.text.Node;

/** Reads what an application sees of a directory. */
public final class SightReader {
  private static final Set<String> KEYS =
      Set.of(
          "directory",
          "also",
          "on",
          "account-bases",
          "account-filter",
          "group-bases",
          "group-filter",
          "login-attribute",
          "members",
          "primary-groups",
          "units",
          "mail-only-groups",
          "nesting",
          "waiting-for-restart",
          "copied",
          "bind",
          "connection",
          "switch");
  private static final List<Via> LISTED = List.of(Via.MEMBER, Via.UNIQUE_MEMBER, Via.MEMBER_UID);

  private SightReader() {}

  /** Reads a sight; what is wrong goes to the problems. */
  public static Sight read(Node node, Problems problems) {
    node.only(KEYS);
    return new Sight(
        node.need("directory"),
        node.texts("also"),
        node.yes("on", true),
        bases(node, "account-bases", problems),
        filter(node, "account-filter", problems),
        bases(node, "group-bases", problems),
        filter(node, "group-filter", problems),
        node.text("login-attribute").map(name -> name.toLowerCase(Locale.ROOT)),
        profile(node, problems));
  }

  /** The sight of a system's file; without one, all of the one directory there is. */
  public static Sight of(Node file, SystemFormat.Context context) {
    Optional<Node> node = file.get("sight");
    Sight sight = node.map(n -> read(n, context.problems())).orElseGet(() -> Sight.all(""));
    if (node.isEmpty() && context.directories().size() == 1) {
      return Sight.all(context.directories().iterator().next());
    }
    Place place = node.map(Node::place).orElse(file.place());
    sight.also().forEach(other -> known(other, place, context));
    known(sight.directory(), place, context);
    return sight;
  }

  private static void known(String directory, Place place, SystemFormat.Context context) {
    if (!context.directories().contains(directory)) {
      context
          .problems()
          .unknown(
              place,
              "the sight names the directory " + Problem.quote(directory) + ", which is not there",
              "one of " + String.join(", ", context.directories()),
              directory,
              context.directories());
    }
  }

  private static List<String> bases(Node node, String key, Problems problems) {
    return node.texts(key).stream()
        .peek(
            dn -> {
              if (!DnForm.isDn(dn)) {
                problems.error(
                    node.get(key).map(Node::place).orElse(node.place()),
                    Problem.quote(dn) + " is no DN",
                    "a DN like ou=people,dc=example,dc=org");
              }
            })
        .map(DnForm::of)
        .toList();
  }

  private static Optional<Filter> filter(Node node, String key, Problems problems) {
    return node.get(key)
        .flatMap(
            value -> {
              try {
                return Optional.of(FilterParser.parse(value.text()));
              } catch (FilterSyntaxException e) {
                Place at = value.place();
                problems.error(
                    at,
                    "the filter "
                        + Problem.quote(value.text())
                        + " is wrong at its column "
                        + e.column(),
                    e.expected());
                return Optional.empty();
              }
            });
  }

  private static MembershipProfile profile(Node node, Problems problems) {
    Set<Via> counts = EnumSet.noneOf(Via.class);
    if (node.get("members").isEmpty()) {
      counts.addAll(LISTED);
      counts.add(Via.DYNAMIC);
    }
    for (String attribute : node.texts("members")) {
      Optional<Via> via =
          LISTED.stream().filter(v -> v.attribute().equalsIgnoreCase(attribute)).findFirst();
      via.ifPresentOrElse(
          counts::add,
          () ->
              problems.unknown(
                  node.place(),
                  Problem.quote(attribute) + " is no attribute that lists members",
                  "member, uniqueMember or memberUid",
                  attribute,
                  LISTED.stream().map(Via::attribute).toList()));
    }
    if (node.yes("primary-groups", true)) {
      counts.add(Via.PRIMARY);
    }
    if (node.yes("units", true)) {
      counts.add(Via.CONTAINER);
    }
    counts.add(Via.IMPLICIT);
    return new MembershipProfile(
        counts, nesting(node, problems), node.yes("mail-only-groups", false));
  }

  private static int nesting(Node node, Problems problems) {
    String text = node.text("nesting").orElse("full");
    if (text.equals("full")) {
      return MembershipProfile.FULL;
    }
    if (text.equals("none")) {
      return 0;
    }
    if (text.matches("[0-9]{1,6}")) {
      return Integer.parseInt(text);
    }
    problems.error(
        node.get("nesting").map(Node::place).orElse(node.place()),
        Problem.quote(text) + " is no depth of nesting",
        "full, none or a number of levels");
    return MembershipProfile.FULL;
  }
}
