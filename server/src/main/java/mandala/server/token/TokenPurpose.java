package mandala.server.token;

import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import mandala.core.model.Supplied;
import mandala.core.model.key.PermissionKey;
import org.springframework.http.server.PathContainer;
import org.springframework.web.util.pattern.PathPattern;
import org.springframework.web.util.pattern.PathPatternParser;

/** What a token is for: the calls that it opens. All but those that report use only read. */
@SuppressWarnings("ImmutableEnumChecker") // neither keys nor patterns change
enum TokenPurpose {
  ACCESS(Supplied.ACCESS_ASK, "/api/ask/**"),
  DIRECTORY(
      Supplied.DIRECTORY_READ,
      "/api/accounts/**",
      "/api/people/**",
      "/api/places/**",
      "/api/rights/**",
      "/api/things/**"),
  FINDINGS(Supplied.ACCESS_ASK, "/api/checks/**"),
  TRAIL(Supplied.TRAIL_READ, "/api/trail/**", "/api/revisions/**"),
  USE(Set.of("POST"), Supplied.SETTINGS_MANAGE, "/api/use");

  private final Set<String> methods;
  private final PermissionKey needed;
  private final List<PathPattern> paths;

  TokenPurpose(PermissionKey needed, String... paths) {
    this(Set.of("GET", "HEAD"), needed, paths);
  }

  TokenPurpose(Set<String> methods, PermissionKey needed, String... paths) {
    this.methods = methods;
    this.needed = needed;
    this.paths = Arrays.stream(paths).map(PathPatternParser.defaultInstance::parse).toList();
  }

  /** {@return the permission that whoever makes such a token needs on each of its accounts} */
  PermissionKey needed() {
    return needed;
  }

  /** {@return whether a call is among those that it opens} */
  boolean opens(String method, String path) {
    PathContainer called = PathContainer.parsePath(path);
    return methods.contains(method) && paths.stream().anyMatch(it -> it.matches(called));
  }

  /** {@return the word for it}, {@code directory} */
  String word() {
    return name().toLowerCase(Locale.ROOT);
  }

  /** {@return the purpose of a word}, if it is one */
  static Optional<TokenPurpose> of(String word) {
    return Arrays.stream(values()).filter(it -> it.word().equals(word)).findFirst();
  }
}
