package org.sobercompass.sources.scim;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.FactsBuilder.Space;
import org.sobercompass.core.facts.FactsSource;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.facts.SubjectRow;
import org.sobercompass.core.facts.Via;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.core.problem.Problems;
import tools.jackson.databind.JsonNode;

/** Turns one SCIM resource after another into facts. */
final class ScimFacts {
  private static final String ENTERPRISE =
      "urn:ietf:params:scim:schemas:extension:enterprise:2.0:User";

  private final String name;
  private final FactsSource into;
  private final Problems problems;

  ScimFacts(String name, FactsSource into, Problems problems) {
    this.name = name;
    this.into = into;
    this.problems = problems;
  }

  /** Takes a user or group; another resource is told and left out. */
  void take(JsonNode resource, int number) {
    Place place = Place.of(name).entry("resource " + number);
    String id = text(resource, "id");
    boolean isGroup = is(resource, "Group") || (resource.has("members") && !is(resource, "User"));
    boolean isUser = is(resource, "User") || resource.has("userName");
    if (id.isEmpty() || (!isGroup && !isUser)) {
      problems.error(
          place,
          id.isEmpty() ? "the resource has no id" : "the resource is neither user nor group",
          "resources of SCIM 2.0 (RFC 7643), each with schemas and an id");
    } else if (isGroup) {
      group(resource, id);
    } else {
      user(resource, id, place);
    }
  }

  /** By its schemas (RFC 7643 section 3). */
  private static boolean is(JsonNode resource, String kind) {
    for (JsonNode schema : resource.path("schemas").values()) {
      if (schema.asString("").endsWith(":core:2.0:" + kind)) {
        return true;
      }
    }
    return false;
  }

  private void user(JsonNode user, String id, Place place) {
    JsonNode said = user.path("active");
    if (!said.isMissingNode() && !said.isNull() && !said.isBoolean()) {
      problems.error(
          place, "active: " + Problem.quote(said.toString()) + " is no boolean", "true or false");
    }
    boolean active = said.asBoolean(true);
    String formatted = user.path("name").path("formatted").asString("");
    String display = text(user, "displayName");
    String login = text(user, "userName");
    if (login.isEmpty()) {
      problems.warning(
          place,
          "the user " + Problem.quote(id) + " has no userName, which every user has",
          "userName (RFC 7643 section 4.1.1); until then it is found by its id only");
    }
    int row =
        into.add(
            new SubjectRow(
                SubjectKind.ACCOUNT,
                id,
                "Users/" + id,
                "?users/" + id,
                login,
                display.isEmpty() ? formatted : display,
                mail(user),
                active ? 0 : Facts.DISABLED,
                Facts.NEVER));
    into.name(row, Space.ID, id);
    into.name(row, Space.LOGIN, login);
    columns(user, row);
  }

  private void group(JsonNode group, String id) {
    String display = text(group, "displayName");
    int row =
        into.add(
            new SubjectRow(
                SubjectKind.GROUP,
                id,
                "Groups/" + id,
                "?groups/" + id,
                display,
                display,
                "",
                0,
                Facts.NEVER));
    into.name(row, Space.ID, id);
    for (JsonNode member : group.path("members").values()) {
      String value = text(member, "value");
      if (!value.isEmpty()) {
        into.refer(row, Via.MEMBER, Space.ID, value);
      }
    }
    columns(group, row);
  }

  /** The primary mail address, else the first. */
  private static String mail(JsonNode user) {
    String first = "";
    for (JsonNode mail : user.path("emails").values()) {
      String value = text(mail, "value");
      if (mail.path("primary").asBoolean(false)) {
        return value;
      }
      first = first.isEmpty() ? value : first;
    }
    return first;
  }

  /** Simple attributes by name, those of the enterprise extension too; names without case. */
  private void columns(JsonNode resource, int row) {
    for (String wanted : into.attributes()) {
      List<String> values = new ArrayList<>();
      for (JsonNode part : List.of(resource, resource.path(ENTERPRISE))) {
        for (var property : part.properties()) {
          if (property.getKey().toLowerCase(Locale.ROOT).equals(wanted)) {
            add(property.getValue(), values);
          }
        }
      }
      if (!values.isEmpty()) {
        into.values(row, wanted, values);
      }
    }
  }

  private static void add(JsonNode value, List<String> into) {
    if (value.isArray()) {
      value.values().forEach(item -> add(item.isObject() ? item.path("value") : item, into));
    } else if (value.isValueNode() && !value.isNull()) {
      into.add(value.asString());
    }
  }

  private static String text(JsonNode node, String name) {
    return node.path(name).asString("");
  }
}
