package org.sobercompass.sources.live;

import java.nio.file.Path;
import java.time.Clock;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.IntConsumer;
import org.sobercompass.core.problem.OutsideException;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.sources.LiveSource;
import org.sobercompass.sources.Secret;
import org.sobercompass.sources.survey.SurveyPart;

/**
 * A live directory as a source.
 *
 * @param access how to reach it
 */
public record LdapSource(LdapAccess access) implements LiveSource {
  @Override
  public Optional<String> readingAccount() {
    return access.bindDn();
  }

  @Override
  public boolean isPlain() {
    return access.tls() == LdapAccess.Tls.PLAIN;
  }

  @Override
  public Taken collect(Path content, Secret.Origins origins, Clock clock, IntConsumer progress) {
    Collected c = new Collector(access, origins, clock, progress::accept).into(content);
    List<String> changes = new ArrayList<>();
    c.before().ifPresent(changes::add);
    c.after().ifPresent(changes::add);
    SurveyPart part =
        new SurveyPart(
            access.name(),
            "ldap",
            access.address(),
            c.identity(),
            access.tls().words(),
            c.started(),
            c.ended(),
            true,
            changes,
            c.entries(),
            c.bases(),
            c.referrals(),
            c.moved(),
            c.completeness(),
            "parts/" + access.name() + ".ldif",
            c.schema().map(s -> "schema/" + access.name() + ".ldif"));
    return new Taken(part, c.schema().map(schema -> schema.toLdif()));
  }

  @Override
  public Optional<String> tried(Place place, Secret.Origins origins, List<Problem> problems) {
    try (LdapSession session = LdapSession.open(access, origins)) {
      RootEntry root = session.root();
      for (String base : access.bases().isEmpty() ? root.contexts() : access.bases()) {
        try {
          session.need(base);
        } catch (OutsideException e) {
          problems.add(e.problem());
        }
      }
      if (isPlain() && access.bindDn().isPresent()) {
        problems.add(
            Problem.warning(
                place.entry(access.name()),
                "the password for " + access.name() + " is sent in clear",
                "ldaps://, or ldap:// without plain: yes"));
      }
      if (!root.pages()) {
        problems.add(
            Problem.warning(
                place.entry(access.name()),
                access.name() + " has no paged results",
                "a size limit above the number of its entries"));
      }
      return Optional.of(
          access.name()
              + ": "
              + access.address()
              + " answers, "
              + access.tls().words()
              + ", as "
              + session.identity());
    }
  }
}
