package org.sobercompass.cli;

import java.nio.file.Path;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.sobercompass.sources.Secret;
import picocli.CommandLine.Option;

/** As whom to sign in to a live system, and how the way there is protected. */
final class SignIn {
  @Option(
      names = "--as",
      paramLabel = "WHO",
      description = "as whom to sign in: a DN, a role, or DOMAIN\\NAME")
  private @Nullable String as;

  @Option(
      names = "--password-env",
      paramLabel = "NAME",
      description = "the environment variable with the password")
  private @Nullable String environment;

  @Option(
      names = "--password-file",
      paramLabel = "FILE",
      description = "the file with the password in its first line")
  private @Nullable Path file;

  @Option(
      names = "--ca",
      paramLabel = "FILE",
      description = "certificates (PEM) to trust instead of those of the Java runtime")
  private @Nullable Path authority;

  @Option(
      names = "--plain",
      description = "do without TLS: everything, also the password, is sent in clear")
  private boolean plain;

  Optional<String> as() {
    return Optional.ofNullable(as);
  }

  /** Where the password comes from; it is never typed. */
  Optional<Secret> secret() {
    return environment != null
        ? Optional.of(new Secret.Environment(environment))
        : Optional.ofNullable(file).map(Secret.File::new);
  }

  Optional<Path> authority() {
    return Optional.ofNullable(authority);
  }

  boolean plain() {
    return plain;
  }
}
