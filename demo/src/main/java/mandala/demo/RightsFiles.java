package mandala.demo;

import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStream;
import java.io.InputStreamReader;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Objects;
import java.util.Optional;
import java.util.stream.Stream;
import mandala.core.model.About;
import mandala.core.model.AccessModel;
import mandala.core.model.Permission;
import mandala.core.model.PermissionSet;
import mandala.core.model.Role;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PermissionSetKey;
import mandala.core.model.key.RoleKey;
import mandala.core.model.key.TypeKey;

/** Reads the demo's permissions, sets and roles, which are kept as tables. */
@SuppressWarnings("NullAway") // javac drops Key.@Nullable X from compact constructors' class files
final class RightsFiles {

  private RightsFiles() {}

  static void addTo(AccessModel.Builder model) {
    lines("permissions.txt").forEach(line -> model.add(permission(cells(line))));
    lines("roles.txt")
        .forEach(line -> {
          String[] parts = line.split(":", 2);
          model.add(parts[0].equals("set") ? set(cells(parts[1])) : role(cells(parts[1])));
        });
  }

  private static Stream<String> lines(String name) {
    InputStream in = RightsFiles.class.getResourceAsStream(name);
    try (BufferedReader reader =
        new BufferedReader(
            new InputStreamReader(Objects.requireNonNull(in, name), StandardCharsets.UTF_8))) {
      return reader.lines().filter(line -> !line.startsWith("#")).toList().stream();
    } catch (IOException e) {
      throw new UncheckedIOException("The demo's " + name + " cannot be read", e);
    }
  }

  private static List<String> cells(String line) {
    return Arrays.stream(line.split("\\|", -1)).map(String::strip).toList();
  }

  private static List<String> list(String cell) {
    return cell.isEmpty() ? List.of() : Arrays.stream(cell.split(",")).map(String::strip).toList();
  }

  private static Permission permission(List<String> cells) {
    return new Permission(
        new PermissionKey(cells.get(0)),
        new About(cells.get(1), cells.get(7), null),
        null,
        list(cells.get(2)).stream().map(TypeKey::new).toList(),
        Permission.AccessClass.valueOf(cells.get(3).toUpperCase(Locale.ROOT)),
        Permission.Risk.valueOf(cells.get(4).toUpperCase(Locale.ROOT)),
        list(cells.get(5)).stream().map(PermissionKey::new).toList(),
        list(cells.get(6)).stream().map(PermissionKey::new).toList(),
        cells.get(0).equals("loan.approve") ? true : null);
  }

  private static PermissionSet set(List<String> cells) {
    return new PermissionSet(
        new PermissionSetKey(cells.get(0)),
        About.named(cells.get(1)),
        null,
        list(cells.get(2)).stream().map(PermissionKey::new).toList(),
        list(cells.get(4)).stream().map(PermissionKey::new).toList(),
        list(cells.get(3)).stream().map(PermissionSetKey::new).toList());
  }

  private static Role role(List<String> cells) {
    List<String> flags = Arrays.asList(cells.get(5).split(" "));
    // the trust's own; all others are shared
    boolean second = cells.get(1).equals("records-cataloguer");
    return new Role(
        new RoleKey(cells.get(1)),
        About.named(cells.get(2)),
        second ? new AccountKey("larkmoor") : null,
        cells.get(0),
        second ? new RoleKey("cataloguer") : null,
        flags.contains("retired"),
        list(cells.get(3)).stream().map(PermissionSetKey::new).toList(),
        list(cells.get(4)).stream().map(RoleKey::new).toList(),
        flags.contains("mfa"),
        flag(flags, "pre=").map(RoleKey::new).stream().toList(),
        flag(flags, "min=").map(Integer::valueOf).orElse(null),
        flag(flags, "max=").map(Integer::valueOf).orElse(null),
        List.of());
  }

  private static Optional<String> flag(List<String> flags, String name) {
    return flags.stream()
        .filter(flag -> flag.startsWith(name))
        .map(flag -> flag.substring(name.length()))
        .findFirst();
  }
}
