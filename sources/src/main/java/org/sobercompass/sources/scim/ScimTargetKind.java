package org.sobercompass.sources.scim;

import java.net.URI;
import java.util.List;
import org.sobercompass.core.amendment.AmendmentRecord;
import org.sobercompass.core.amendment.Difference;
import org.sobercompass.core.amendment.LiveTarget;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.sources.Collecting;
import org.sobercompass.sources.LiveSource;
import org.sobercompass.sources.Secret;
import org.sobercompass.sources.TargetKind;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ArrayNode;
import tools.jackson.databind.node.ObjectNode;

/** Services that speak SCIM 2.0; their files are PATCH requests (RFC 7644 section 3.5.2). */
public final class ScimTargetKind implements TargetKind {
  /** The word for it. */
  static final String ID = "scim";

  private static final String PATCH = "urn:ietf:params:scim:api:messages:2.0:PatchOp";
  private static final JsonMapper JSON = JsonMapper.shared();

  private static final Form FORM =
      new Form(ID, "SCIM PATCH requests, one a line", ".patches.jsonl", "https://HOST/scim/v2", "");

  @Override
  public Form form() {
    return FORM;
  }

  @Override
  public String text(List<AmendmentRecord> records) {
    StringBuilder out = new StringBuilder();
    for (AmendmentRecord record : records) {
      ObjectNode line = JSON.createObjectNode();
      line.put("record", record.number()).put("method", "PATCH").put("path", record.place());
      line.set("body", body(record));
      out.append(JSON.writeValueAsString(line)).append('\n');
    }
    return out.toString();
  }

  /** The body of the request that makes a record. */
  static ObjectNode body(AmendmentRecord record) {
    ObjectNode body = JSON.createObjectNode();
    body.putArray("schemas").add(PATCH);
    ArrayNode operations = body.putArray("Operations");
    for (Difference difference : record.differences()) {
      if (difference.name().equals(ScimAmending.ACTIVE)) {
        operations
            .addObject()
            .put("op", "replace")
            .put("path", ScimAmending.ACTIVE)
            .put("value", difference.added().contains("true"));
        continue;
      }
      for (String member : difference.removed()) {
        String quoted = JSON.writeValueAsString(member);
        operations
            .addObject()
            .put("op", "remove")
            .put("path", difference.name() + "[value eq " + quoted + "]");
      }
      for (String member : difference.added()) {
        operations
            .addObject()
            .put("op", "add")
            .put("path", difference.name())
            .putArray("value")
            .addObject()
            .put("value", member);
      }
    }
    return body;
  }

  @Override
  public LiveTarget open(Door door, Secret.Origins origins) {
    URI uri;
    try {
      uri = URI.create(door.where());
    } catch (IllegalArgumentException e) {
      throw new Collecting.Mistyped(
          Problem.quote(door.where()) + " is no address of a service; expected " + FORM.where());
    }
    boolean known = "https".equals(uri.getScheme()) || "http".equals(uri.getScheme());
    if (!known || uri.getHost() == null || Secret.isIn(door.where())) {
      throw new Collecting.Mistyped(
          Problem.quote(door.where()) + " is no address of a service; expected " + FORM.where());
    }
    if ("http".equals(uri.getScheme()) && !door.plain()) {
      throw new Collecting.Mistyped(
          "the service would be changed in clear, its token too; expected https://, or --plain if"
              + " it must be");
    }
    if (door.as().isPresent()) {
      throw new Collecting.Mistyped(
          "a service is changed with a token, not as somebody; expected --password-env or"
              + " --password-file with the token");
    }
    var token = door.secret().map(secret -> secret.read(origins));
    ScimService service = new ScimService(door.target(), uri, token, LiveSource.PATIENCE);
    return new ScimTarget(service, uri, token.isPresent());
  }
}
