package mandala.demo;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import java.util.List;
import java.util.Objects;
import java.util.Set;
import java.util.stream.Collectors;
import mandala.core.engine.Engine;
import mandala.core.model.AccessModel;
import mandala.core.model.Assignment;
import mandala.core.model.Gives;
import mandala.core.model.Group;
import mandala.core.model.Principal;
import mandala.core.model.Role;
import mandala.core.model.check.ModelCheck;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.GroupKey;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.model.key.RoleKey;
import mandala.core.question.Question;
import mandala.core.question.Verdict;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Nested;
import org.junit.jupiter.api.Test;

/** The demo has the size that it should, and its planted troubles are real (docs/demo.md). */
class LarkmoorTest {

  private static final AccessModel MODEL = Larkmoor.model();
  private static final Engine ENGINE = Engine.of(MODEL);
  private static final Instant NOW = Instant.parse("2026-11-23T09:00:00Z");

  private static Verdict ask(String who, String permission, String where) {
    return ask(who, permission, where, null);
  }

  private static Verdict ask(
      String who, String permission, String where, @Nullable String actingFor) {
    return ENGINE
        .decide(
            new Question(
                new PrincipalKey(who),
                new PermissionKey(permission),
                new ResourceKey(where),
                NOW,
                true,
                actingFor == null ? null : new PrincipalKey(actingFor)))
        .verdict();
  }

  private static Principal principal(String key) {
    return Objects.requireNonNull(ENGINE.catalogue().principals().get(new PrincipalKey(key)));
  }

  private static Set<String> rolesOf(String who) {
    return ENGINE.rolesHeld(new PrincipalKey(who), NOW).stream()
        .map(RoleKey::value)
        .collect(Collectors.toSet());
  }

  @Test
  void itHasNoFaultsAndIsTheSameEveryTime() {
    assertThat(ModelCheck.faultsOf(MODEL)).isEmpty();
    assertThat(Larkmoor.model()).isEqualTo(MODEL);
  }

  @Test
  void itHasTheSizeThatItShould() {
    long persons =
        MODEL.principals().stream().filter(it -> it.kind() == Principal.Kind.PERSON).count();
    assertThat(persons).isBetween(380L, 420L);
    assertThat(MODEL.principals().size() - persons).isEqualTo(12);
    assertThat(MODEL.groups()).hasSizeBetween(55, 65);
    assertThat(MODEL.roles()).hasSizeBetween(43, 48);
    assertThat(MODEL.permissions()).hasSizeBetween(115, 125);
    int implicit = MODEL.accounts().size() + MODEL.units().size() + MODEL.groups().size();
    assertThat(MODEL.resources().size() + implicit).isBetween(2900, 3100);
  }

  @Test
  void itsNamesAreGivenOnce() {
    assertThat(MODEL.principals().stream().filter(it -> it.kind() == Principal.Kind.PERSON))
        .extracting(it -> it.about().name())
        .doesNotHaveDuplicates();
  }

  @Test
  void whoCanBeSignedInAsIsThereAndActive() {
    assertThat(Larkmoor.signIns().keySet())
        .allSatisfy(
            key -> assertThat(principal(key.value()).status()).isEqualTo(Principal.Status.ACTIVE));
  }

  @Nested
  class HalfAYear {

    private static final DemoHistory PAST = DemoHistory.of(MODEL);

    @Test
    void theRevisionsLeadToTheModelOfTodayAndEachLeavesOneWithoutFaults() {
      assertThat(PAST).isEqualTo(DemoHistory.of(Larkmoor.model()));
      assertThat(ModelCheck.faultsOf(PAST.first())).isEmpty();
      assertThat(PAST.revisions()).hasSizeGreaterThan(30);
      Engine engine = Engine.of(PAST.first());
      Instant last = PAST.began();
      for (DemoHistory.Made it : PAST.revisions()) {
        assertThat(it.at()).as(it.title()).isAfter(last).isBefore(NOW);
        assertThat(it.changes()).as(it.title()).isNotEmpty();
        assertThat(engine.isActive(it.author(), it.at())).as(it.title()).isTrue();
        engine = engine.after(it.changes()); // refuses a faulty model
        last = it.at();
      }
      assertThat(engine.catalogue().model().sorted()).isEqualTo(MODEL);
    }

    @Test
    void theRegistrarWhoMovedWasAtHomeInFernwick() {
      Engine then = Engine.of(PAST.first());
      Principal odile = then.catalogue().principals().get(new PrincipalKey("odile.farrow"));
      assertThat(Objects.requireNonNull(odile).account()).isEqualTo(new AccountKey("fernwick"));
      Question old =
          new Question(
              odile.key(),
              new PermissionKey("order.approve"),
              new ResourceKey("q-purchasing"),
              PAST.began(),
              true,
              null);
      assertThat(then.decide(old).allowed()).isFalse();
    }
  }

  @Test
  void aGuestSeesThreeObjects() {
    long seen =
        MODEL.resources().stream()
            .filter(it -> it.account().value().equals("brack"))
            .filter(it -> ask("nell.harrow", "object.view", it.key().value()) == Verdict.ALLOWED)
            .count();
    assertThat(seen).isEqualTo(3);
  }

  @Nested
  class Troubles {

    @Test
    void aRegistrarMovedAndKeptTheOldRights() {
      assertThat(principal("odile.farrow").account()).isEqualTo(new AccountKey("quillhaven"));
      assertThat(ask("odile.farrow", "loan.approve", "f-loan-101")).isEqualTo(Verdict.ALLOWED);
      assertThat(ask("mira.kestrel", "loan.approve", "f-loan-101")).isEqualTo(Verdict.NONE);
    }

    @Test
    void aDrafterAlsoApproves() {
      assertThat(ask("petra.lowe", "loan.draft", "q-loan-101")).isEqualTo(Verdict.ALLOWED);
      assertThat(ask("petra.lowe", "loan.approve", "q-loan-101")).isEqualTo(Verdict.ALLOWED);
    }

    @Test
    void aStrongroomRoleIsGivenOverEverythingAndReachesThroughTheSeal() {
      assertThat(ask("bas.quill", "strongroom.open", "q-strongroom")).isEqualTo(Verdict.ALLOWED);
      assertThat(ask("mira.kestrel", "strongroom.open", "q-strongroom")).isEqualTo(Verdict.NONE);
    }

    @Test
    void aGuestWhoseShowClosedStillSeesItsObjects() {
      assertThat(ask("gil.moreau", "object.view", "q-obj-r3-1")).isEqualTo(Verdict.ALLOWED);
    }

    @Test
    void aGroupNestedTheWrongWayRoundOpensTheClosedPapers() {
      List<Principal> staff =
          MODEL.principals().stream()
              .filter(it -> it.account().value().equals("osier"))
              .filter(it -> it.kind() == Principal.Kind.PERSON)
              .toList();
      assertThat(staff)
          .hasSizeGreaterThan(50)
          .allSatisfy(it ->
              assertThat(ask(it.key().value(), "archive.closed", "o-closed"))
                  .isEqualTo(Verdict.ALLOWED));
    }

    @Test
    void aDenyLocksAGate() {
      Group volunteers = ENGINE.catalogue().groups().get(new GroupKey("t-volunteers"));
      String officer =
          ((Group.Member.OfPrincipal) Objects.requireNonNull(volunteers).members().getFirst())
              .key()
              .value();
      assertThat(rolesOf(officer)).contains("loans-officer");
      assertThat(ask(officer, "desk.open", "t-loans-desk")).isEqualTo(Verdict.DENIED);
      assertThat(ask(officer, "loan.draft", "t-loan-101")).isEqualTo(Verdict.BLOCKED);
    }

    @Test
    void aRoleIsUsedByNobody() {
      Set<RoleKey> given =
          MODEL.assignments().stream()
              .map(Assignment::gives)
              .filter(Gives.OfRole.class::isInstance)
              .map(it -> ((Gives.OfRole) it).key())
              .collect(Collectors.toSet());
      assertThat(given).doesNotContain(new RoleKey("map-room-keeper"));
      assertThat(MODEL.roles())
          .flatExtracting(Role::inherits)
          .doesNotContain(new RoleKey("map-room-keeper"));
    }

    @Test
    void twoRolesAreAlikeInAllButName() {
      Role one = ENGINE.catalogue().roles().get(new RoleKey("cataloguer"));
      Role other = ENGINE.catalogue().roles().get(new RoleKey("records-cataloguer"));
      assertThat(Objects.requireNonNull(one).sets())
          .isEqualTo(Objects.requireNonNull(other).sets());
      assertThat(one.inherits()).isEqualTo(other.inherits());
      assertThat(rolesOf("hester.vane")).contains("records-cataloguer");
    }

    @Test
    void aDelegateGainsAnExcludedPair() {
      assertThat(ask("noor.haddad", "loan.draft", "q-loan-101")).isEqualTo(Verdict.ALLOWED);
      assertThat(ask("noor.haddad", "loan.approve", "q-loan-101")).isEqualTo(Verdict.NONE);
      assertThat(ask("noor.haddad", "loan.approve", "q-loan-101", "petra.lowe"))
          .isEqualTo(Verdict.ALLOWED);
    }

    @Test
    void aLeaverStillOwnsAGroup() {
      Group group = ENGINE.catalogue().groups().get(new GroupKey("b-keyholders"));
      assertThat(Objects.requireNonNull(group).owners())
          .containsExactly(new PrincipalKey("hanne.sorrel"));
      assertThat(principal("hanne.sorrel").status()).isEqualTo(Principal.Status.LEFT);
      assertThat(ask("hanne.sorrel", "object.view", "b-room-1")).isEqualTo(Verdict.INACTIVE);
    }

    @Test
    void aServiceHasAPersonsRole() {
      assertThat(principal("label-printer").kind()).isEqualTo(Principal.Kind.SERVICE);
      assertThat(rolesOf("label-printer")).contains("registrar");
      assertThat(ask("label-printer", "object.edit", "s-obj-r1-1")).isEqualTo(Verdict.ALLOWED);
    }
  }

  @Nested
  class Administrators {

    @Test
    void theAuditorSeesIntoSealedAccountsAndManagesNothing() {
      assertThat(ask("vera.lindqvist", "mandala.directory.read", "account:osier"))
          .isEqualTo(Verdict.ALLOWED);
      assertThat(ask("vera.lindqvist", "mandala.people.manage", "account:osier"))
          .isEqualTo(Verdict.NONE);
    }

    @Test
    void theAdministratorOfOneMuseumManagesItAlone() {
      assertThat(ask("dario.penn", "mandala.people.manage", "unit:f-care"))
          .isEqualTo(Verdict.ALLOWED);
      assertThat(ask("dario.penn", "mandala.people.manage", "unit:q-care")).isEqualTo(Verdict.NONE);
    }

    @Test
    void theOwnerOfTheTrustDoesNotOwnTheInsurer() {
      assertThat(ask("marten.holloway", "mandala.account.manage", "account:quillhaven"))
          .isEqualTo(Verdict.ALLOWED);
      assertThat(ask("marten.holloway", "mandala.account.manage", "account:dunlow"))
          .isEqualTo(Verdict.NONE);
    }
  }
}
