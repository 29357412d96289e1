package org.sobercompass.sources.scim;

import java.net.URI;
import java.util.ArrayList;
import java.util.List;
import org.sobercompass.core.amendment.AmendmentRecord;
import org.sobercompass.core.amendment.Difference;
import org.sobercompass.core.amendment.LiveTarget;
import org.sobercompass.core.amendment.Standing;
import org.sobercompass.core.problem.OutsideException;
import tools.jackson.databind.JsonNode;

/**
 * A live service that is changed. A request names the version that was looked at (RFC 7644 section
 * 3.14), so that the service refuses where somebody changed the resource meanwhile. Where it gives
 * no versions, the resource is read and compared just before.
 */
final class ScimTarget implements LiveTarget {
  private static final int CHANGED = 412;
  private static final int TIMES = 5;

  private final ScimService service;
  private final URI address;
  private final boolean hasToken;

  ScimTarget(ScimService service, URI address, boolean hasToken) {
    this.service = service;
    this.address = address;
    this.hasToken = hasToken;
  }

  @Override
  public String identity() {
    return hasToken ? "a bearer token" : "anonymous";
  }

  @Override
  public String reached() {
    return address + ", " + ("https".equals(address.getScheme()) ? "TLS" : "no TLS, in clear");
  }

  private static List<String> values(JsonNode resource, String name) {
    if (name.equals(ScimAmending.ACTIVE)) {
      return List.of(String.valueOf(resource.path(name).asBoolean(true)));
    }
    List<String> values = new ArrayList<>();
    resource.path(name).values().forEach(one -> values.add(one.path("value").asString("")));
    return values;
  }

  private static Standing standing(AmendmentRecord record, ScimService.Version now) {
    return now.status() == 404
        ? Standing.OTHER
        : Standing.all(
            record.differences().stream()
                .map(d -> Standing.of(d, values(now.resource(), d.name()), String::equals))
                .toList());
  }

  @Override
  public Standing standing(AmendmentRecord record) {
    return standing(record, service.resource(record.place()));
  }

  @Override
  public String found(AmendmentRecord record) {
    ScimService.Version now = service.resource(record.place());
    if (now.status() == 404) {
      return "there is no " + record.place() + ", or it may not be seen";
    }
    List<String> said = new ArrayList<>();
    for (Difference difference : record.differences()) {
      List<String> there = values(now.resource(), difference.name());
      difference.removed().stream()
          .filter(value -> !there.contains(value))
          .forEach(value -> said.add(difference.name() + " has no " + value));
      difference.added().stream()
          .filter(there::contains)
          .forEach(value -> said.add(difference.name() + " has " + value + " already"));
    }
    return String.join("; ", said);
  }

  @Override
  public Result make(AmendmentRecord record) {
    Result result = new Result(Outcome.NOT_AS_COUNTED_ON, "");
    // Somebody may change something else of the resource in between: then it is looked at again.
    for (int i = 0; i < TIMES && result.outcome() == Outcome.NOT_AS_COUNTED_ON; i++) {
      try {
        ScimService.Version now = service.resource(record.place());
        if (standing(record, now) != Standing.BEFORE) {
          return result;
        }
        result = patch(record, now);
      } catch (OutsideException e) {
        return new Result(Outcome.LOST, e.problem().what());
      }
    }
    return result;
  }

  private Result patch(AmendmentRecord record, ScimService.Version now) {
    String body = ScimTargetKind.body(record).toString();
    int status = service.patch(record.place(), body, now.version());
    if (status / 100 == 2) {
      return Result.MADE;
    }
    return status == CHANGED
        ? new Result(Outcome.NOT_AS_COUNTED_ON, "")
        : new Result(Outcome.REFUSED, "the service answers with status " + status);
  }

  @Override
  public void close() {
    // Nothing is held open.
  }
}
