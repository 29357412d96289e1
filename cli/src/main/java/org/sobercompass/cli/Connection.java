package org.sobercompass.cli;

import java.net.URI;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.sources.Secret;
import org.sobercompass.sources.live.AccessSettings;
import org.sobercompass.sources.live.LdapAccess;
import picocli.CommandLine.Option;

/** How to reach a directory that no workspace describes yet. The password is never typed here. */
class Connection {
  @Option(
      names = "--name",
      paramLabel = "NAME",
      description = "the name of the directory in the workspace (default: main)")
  String name = "main";

  @Option(
      names = "--bind",
      paramLabel = "DN",
      description = "the account to sign in with (default: anonymous); asks for the password")
  @Nullable String bind;

  @Option(
      names = "--password-env",
      paramLabel = "VARIABLE",
      description = "the environment variable with the password")
  @Nullable String environment;

  @Option(
      names = "--password-file",
      paramLabel = "FILE",
      description = "the file with the password in its first line")
  @Nullable Path file;

  @Option(
      names = "--ca",
      paramLabel = "FILE",
      description = "certificates (PEM) to trust instead of those of the Java runtime")
  @Nullable Path ca;

  @Option(
      names = "--plain",
      description = "with ldap://: do without TLS; everything, also the password, is sent in clear")
  boolean plain;

  @Option(
      names = "--base",
      paramLabel = "DN",
      description = "the branch to read (default: all naming contexts); can be repeated")
  List<String> bases = new ArrayList<>();

  /** How to reach it. */
  LdapAccess access(String address) {
    if (Secret.isIn(address)) {
      throw new UsageException(
          "the address holds a user or a password, which do not belong there; expected --bind and"
              + " --password-env or --password-file");
    }
    URI uri =
        AccessSettings.parse(address)
            .orElseThrow(
                () ->
                    new UsageException(
                        Problem.quote(address)
                            + " is no address of a directory; expected ldaps://host, or"
                            + " ldap://host for StartTLS"));
    if (!name.matches("[a-z0-9][a-z0-9-]*")) {
      throw new UsageException("--name: expected lower-case letters, digits and hyphens");
    }
    if (bind == null && (environment != null || file != null)) {
      throw new UsageException("a password needs --bind and a DN");
    }
    return AccessSettings.of(name, uri, plain)
        .with(
            Optional.ofNullable(ca),
            Optional.ofNullable(bind),
            secret(),
            bases,
            LdapAccess.PAGE,
            LdapAccess.PATIENCE);
  }

  private Optional<Secret> secret() {
    if (bind == null) {
      return Optional.empty();
    }
    if (environment != null) {
      return Optional.of(new Secret.Environment(environment));
    }
    return Optional.of(
        file != null ? new Secret.File(file) : new Secret.Prompt("Password for " + bind + ": "));
  }

  /** The same as lines of compass.yaml, for {@code directories:}. */
  List<String> yaml(String address) {
    List<String> lines = new ArrayList<>();
    lines.add("address: " + address);
    if (plain) {
      lines.add("plain: yes");
    }
    if (ca != null) {
      lines.add("ca: " + quoted(ca.toString()));
    }
    if (bind != null) {
      lines.add("bind: " + quoted(bind));
      lines.add(
          environment != null
              ? "password: {env: " + environment + "}"
              : file != null
                  ? "password: {file: " + quoted(file.toString()) + "}"
                  : "password: prompt");
    }
    return lines;
  }

  /** A text as a YAML value in double quotes. */
  static String quoted(String text) {
    return '"' + text.replace("\\", "\\\\").replace("\"", "\\\"") + '"';
  }
}
