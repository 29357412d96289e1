package org.sobercompass.core.filter;

import java.math.BigInteger;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.function.UnaryOperator;

/**
 * A parsed search filter. Immutable and thread-safe; {@link #test} costs O(items x values). Parse
 * with {@link FilterParser}.
 */
public sealed interface Filter {

  /** Whether the entry with these values matches. */
  Truth test(Values values);

  /** Adds the names (lower case) of all attributes that the filter asks for. */
  void collectAttributes(Set<String> into);

  /** True for all parts; true when there are none (RFC 4526). */
  record And(List<Filter> parts) implements Filter {
    @Override
    public Truth test(Values values) {
      Truth result = Truth.TRUE;
      for (Filter part : parts) {
        result = result.and(part.test(values));
      }
      return result;
    }

    @Override
    public void collectAttributes(Set<String> into) {
      parts.forEach(part -> part.collectAttributes(into));
    }
  }

  /** True for at least one part; false when there are none (RFC 4526). */
  record Or(List<Filter> parts) implements Filter {
    @Override
    public Truth test(Values values) {
      Truth result = Truth.FALSE;
      for (Filter part : parts) {
        result = result.or(part.test(values));
      }
      return result;
    }

    @Override
    public void collectAttributes(Set<String> into) {
      parts.forEach(part -> part.collectAttributes(into));
    }
  }

  /** The opposite of its part. */
  record Not(Filter part) implements Filter {
    @Override
    public Truth test(Values values) {
      return part.test(values).not();
    }

    @Override
    public void collectAttributes(Set<String> into) {
      part.collectAttributes(into);
    }
  }

  /** {@code (attribute=*)}. */
  record Present(String attribute) implements Filter {
    @Override
    public Truth test(Values values) {
      return values.matching(attribute).isPresent()
          ? Truth.of(!values.of(attribute).isEmpty())
          : Truth.UNDEFINED;
    }

    @Override
    public void collectAttributes(Set<String> into) {
      into.add(attribute);
    }
  }

  /** How a {@link Compare} compares. */
  enum Relation {
    EQUAL,
    AT_LEAST,
    AT_MOST
  }

  /** {@code (attribute=value)}, {@code >=}, {@code <=}; {@code ~=} is taken as equality. */
  record Compare(String attribute, Relation relation, String value) implements Filter {
    @Override
    public Truth test(Values values) {
      Optional<Matching> matching = values.matching(attribute).filter(this::defines);
      if (matching.isEmpty()) {
        return Truth.UNDEFINED;
      }
      Syntax syntax = matching.get().syntax();
      Optional<String> asked = syntax.normalise(value);
      if (asked.isEmpty()) {
        return Truth.UNDEFINED;
      }
      Truth result = Truth.FALSE;
      for (String have : values.of(attribute)) {
        result =
            result.or(
                matching.get().guessed()
                    ? Guess.equal(have, value)
                    : one(syntax, have, asked.get()));
      }
      return result;
    }

    private boolean defines(Matching matching) {
      return relation == Relation.EQUAL ? matching.equality() : matching.ordering();
    }

    private Truth one(Syntax syntax, String have, String asked) {
      if (relation == Relation.EQUAL) {
        return syntax.normalise(have).map(h -> Truth.of(h.equals(asked))).orElse(Truth.UNDEFINED);
      }
      return syntax
          .compare(have, value)
          .map(order -> Truth.of(relation == Relation.AT_LEAST ? order >= 0 : order <= 0))
          .orElse(Truth.UNDEFINED);
    }

    @Override
    public void collectAttributes(Set<String> into) {
      into.add(attribute);
    }
  }

  /** {@code (attribute=initial*any*any*final)}; initial and last may be empty. */
  record Substrings(String attribute, String initial, List<String> any, String last)
      implements Filter {
    @Override
    public Truth test(Values values) {
      Optional<Matching> matching = values.matching(attribute).filter(Matching::substrings);
      if (matching.isEmpty()) {
        return Truth.UNDEFINED;
      }
      Syntax syntax = matching.get().syntax();
      Truth result = Truth.FALSE;
      for (String have : values.of(attribute)) {
        result =
            result.or(
                matching.get().guessed() ? guessed(have) : Truth.of(matches(have, syntax::piece)));
      }
      return result;
    }

    /** True when every usual rule finds the pieces, false when none does. */
    private Truth guessed(String have) {
      if (!matches(have, Guess::loose)) {
        return Truth.FALSE;
      }
      boolean surely = Guess.isText(have) && matches(have, UnaryOperator.identity());
      return surely ? Truth.TRUE : Truth.UNDEFINED;
    }

    private boolean matches(String value, UnaryOperator<String> fold) {
      String have = fold.apply(value);
      String first = fold.apply(initial);
      String end = fold.apply(last);
      if (!have.startsWith(first) || have.length() < first.length() + end.length()) {
        return false;
      }
      int at = first.length();
      for (String piece : any) {
        String wanted = fold.apply(piece);
        int found = have.indexOf(wanted, at);
        if (found < 0) {
          return false;
        }
        at = found + wanted.length();
      }
      return have.endsWith(end) && have.length() - end.length() >= at;
    }

    @Override
    public void collectAttributes(Set<String> into) {
      into.add(attribute);
    }
  }

  /**
   * {@code (attribute:dn:rule:=value)}: the attribute's own equality when no rule is named, the
   * case rules and the two bit rules; others are undefined. With {@code dn} the parts of the
   * entry's name count as values too.
   */
  record Extensible(String attribute, boolean inName, String rule, String value) implements Filter {
    private static final String BIT_AND = "1.2.840.113556.1.4.803";
    private static final String BIT_OR = "1.2.840.113556.1.4.804";

    @Override
    public Truth test(Values values) {
      Optional<Matching> matching = values.matching(attribute);
      if (matching.isEmpty()) {
        return Truth.UNDEFINED;
      }
      return switch (rule) {
        case "" -> own(values, matching.get());
        case "caseignorematch", "2.5.13.2" -> equal(values, Syntax.CASE_IGNORE);
        case "caseexactmatch", "2.5.13.5" -> equal(values, Syntax.CASE_EXACT);
        case BIT_AND, BIT_OR -> bits(values);
        default -> Truth.UNDEFINED;
      };
    }

    private Truth own(Values values, Matching matching) {
      if (!matching.equality() || matching.syntax().normalise(value).isEmpty()) {
        return Truth.UNDEFINED;
      }
      return matching.guessed()
          ? have(values).stream().map(one -> Guess.equal(one, value)).reduce(Truth.FALSE, Truth::or)
          : equal(values, matching.syntax());
    }

    private Truth equal(Values values, Syntax syntax) {
      Optional<String> asked = syntax.normalise(value);
      return Truth.of(have(values).stream().anyMatch(one -> syntax.normalise(one).equals(asked)));
    }

    private List<String> have(Values values) {
      List<String> have = new ArrayList<>(values.of(attribute));
      if (inName) {
        have.addAll(values.inName(attribute));
      }
      return have;
    }

    private Truth bits(Values values) {
      Optional<String> mask = Syntax.INTEGER.normalise(value);
      if (mask.isEmpty()) {
        return Truth.UNDEFINED;
      }
      BigInteger asked = new BigInteger(mask.get());
      Truth result = Truth.FALSE;
      for (String have : values.of(attribute)) {
        Optional<String> number = Syntax.INTEGER.normalise(have);
        result =
            result.or(number.map(n -> holds(new BigInteger(n), asked)).orElse(Truth.UNDEFINED));
      }
      return result;
    }

    private Truth holds(BigInteger have, BigInteger asked) {
      BigInteger common = have.and(asked);
      return Truth.of(rule.equals(BIT_AND) ? common.equals(asked) : common.signum() != 0);
    }

    @Override
    public void collectAttributes(Set<String> into) {
      into.add(attribute);
    }
  }
}
