package mandala.core.model;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Locale;
import java.util.Objects;
import java.util.function.Function;
import java.util.stream.Collectors;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.TypeKey;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** The supplied things are those of section 11's tables. */
class SuppliedTest {

  private static final List<Permission> PERMISSIONS =
      Supplied.permissions(List.of(new ResourceType(new TypeKey("box"), About.NONE, null)));

  private static Permission permission(String name) {
    return PERMISSIONS.stream()
        .filter(it -> it.key().value().equals("mandala." + name))
        .findFirst()
        .orElseThrow();
  }

  @ParameterizedTest
  @CsvSource({
    "directory.read, view, low, false",
    "access.ask, view, moderate, true",
    "trail.read, view, moderate, false",
    "access.impersonate, view, high, false",
    "places.manage, administer, high, true",
    "people.manage, administer, high, false",
    "groups.manage, administer, high, false",
    "draft.approve, administer, high, false",
    "settings.manage, administer, high, false",
    "review.run, administer, moderate, false",
    "rights.define, administer, critical, false",
    "access.assign, administer, critical, true",
    "bridge.manage, administer, critical, false",
    "account.manage, administer, critical, false"
  })
  void aPermission(String name, String accessClass, String risk, boolean everyType) {
    Permission it = permission(name);
    assertThat(it.accessClass().name().toLowerCase(Locale.ROOT)).isEqualTo(accessClass);
    assertThat(it.risk().name().toLowerCase(Locale.ROOT)).isEqualTo(risk);
    assertThat(it.on())
        .contains(ResourceType.ACCOUNT, ResourceType.UNIT, ResourceType.GROUP)
        .hasSize(everyType ? 4 : 3);
    assertThat(it.mayBeDelegated()).isFalse();
    assertThat(it.implies())
        .isEqualTo(accessClass.equals("administer") ? List.of(Supplied.DIRECTORY_READ) : List.of());
  }

  @Test
  void thereAreNoOthers() {
    assertThat(PERMISSIONS).hasSize(14);
    assertThat(Supplied.roles()).hasSize(5);
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      textBlock =
          """
          owner                   | true  | 14
          security-administrator  | true  | 12
          directory-administrator | false | 3
          access-reviewer         | false | 3
          auditor                 | false | 3
          """)
  void aRoleAndItsSet(String name, boolean mfa, int holds) {
    Role role =
        Supplied.roles().stream()
            .collect(Collectors.toMap(it -> it.key().value(), Function.identity()))
            .get("mandala." + name);
    PermissionSet set =
        Supplied.permissionSets().stream()
            .filter(it -> it.key().value().equals("mandala." + name))
            .findFirst()
            .orElseThrow();
    assertThat(Objects.requireNonNull(role).requiresMfa()).isEqualTo(mfa);
    assertThat(role.sets()).containsExactly(set.key());
    assertThat(set.allow()).hasSize(holds).doesNotHaveDuplicates();
  }

  @Test
  void theSecurityAdministratorManagesNeitherAccountsNorSettings() {
    PermissionSet set =
        Supplied.permissionSets().stream()
            .filter(it -> it.key().value().equals("mandala.security-administrator"))
            .findFirst()
            .orElseThrow();
    assertThat(set.allow())
        .extracting(PermissionKey::value)
        .doesNotContain("mandala.account.manage", "mandala.settings.manage")
        .contains("mandala.rights.define", "mandala.directory.read");
  }
}
