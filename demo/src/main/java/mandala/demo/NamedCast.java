package mandala.demo;

import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Random;
import mandala.core.change.Rewritten;
import mandala.core.model.About;
import mandala.core.model.AccessModel;
import mandala.core.model.Account;
import mandala.core.model.Bridge;
import mandala.core.model.Clause;
import mandala.core.model.Delegation;
import mandala.core.model.Exclusion;
import mandala.core.model.Expectation;
import mandala.core.model.Gives;
import mandala.core.model.Group;
import mandala.core.model.Guest;
import mandala.core.model.Pattern;
import mandala.core.model.Principal;
import mandala.core.model.ResourceCollection;
import mandala.core.model.Subject;
import mandala.core.model.Supplied;
import mandala.core.model.Term;
import mandala.core.model.Window;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.BridgeKey;
import mandala.core.model.key.CollectionKey;
import mandala.core.model.key.DelegationKey;
import mandala.core.model.key.ExclusionKey;
import mandala.core.model.key.ExpectationKey;
import mandala.core.model.key.GroupKey;
import mandala.core.model.key.PatternKey;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.model.key.TypeKey;
import org.jspecify.annotations.Nullable;

/**
 * The hand-written part of the demo: who one meets first, and the planted troubles (docs/demo.md).
 */
@SuppressWarnings("NullAway") // javac drops Key.@Nullable X from compact constructors' class files
final class NamedCast {

  private static final Instant NOVEMBER = Instant.parse("2026-11-21T09:30:00Z");

  private final AccessModel.Builder model;
  private final Random random;
  private final Names names;

  NamedCast(AccessModel.Builder model, Random random, Names names) {
    this.model = model;
    this.random = random;
    this.names = names;
  }

  private static Window span(@Nullable String from, @Nullable String until) {
    return new Window(
        from == null ? null : Instant.parse(from + "T00:00:00Z"),
        until == null ? null : Instant.parse(until + "T00:00:00Z"));
  }

  /** The trust itself: its units, people, administrators and places. */
  void trust() {
    String trust = "larkmoor";
    model.add(
        DemoBuilders.unit("l-board", "Trust office", trust),
        DemoBuilders.unit("l-security", "Security", trust),
        DemoBuilders.unit("l-wages", "Wages and accounts", trust),
        DemoBuilders.unit("l-night", "Night watch", trust));
    person("Marten Holloway", trust, "l-board", null, "Director of the trust", true);
    person("Ilse Varga", trust, "l-security", "marten.holloway", "Head of security", true);
    person("Vera Lindqvist", trust, "l-board", "marten.holloway", "Auditor", true);
    person("Anselm Reeve", trust, "l-security", "ilse.varga", "Access reviewer", true);
    person("Ottoline Marsh", trust, "l-wages", "marten.holloway", "Head of wages", true);
    person("Corin Bladen", trust, "l-wages", "ottoline.marsh", "Wages clerk", true);
    person("Tess Aldergate", trust, "l-wages", "ottoline.marsh", "Wages clerk", true);
    person("Lorne Whitby", trust, "l-board", "marten.holloway", "Press officer", false);
    for (int i = 0; i < 14; i++) {
      person(names.next(), trust, "l-night", "ilse.varga", "Night guard", false);
    }
    model.add(
        DemoBuilders.ruled(
            "l-night-guards", "Night guards", trust, DemoBuilders.titled("Night guard")),
        DemoBuilders.ruled(
            "l-wages-clerks", "Wages clerks", trust, DemoBuilders.titled("Wages clerk")),
        listed("l-security-office", "Security office", trust, "anselm.reeve"),
        listed("l-auditors", "Auditors", trust, "vera.lindqvist"),
        listed("l-directors", "Directors", trust, "marten.holloway"));
    Clause everywhere = DemoBuilders.tree("account:larkmoor");
    administrator("owners", DemoBuilders.toPerson("marten.holloway"), "mandala.owner", everywhere);
    administrator(
        "security",
        DemoBuilders.toPerson("ilse.varga"),
        "mandala.security-administrator",
        everywhere);
    administrator(
        "reviewers",
        DemoBuilders.toGroup("l-security-office"),
        "mandala.access-reviewer",
        everywhere);
    administrator("auditors", DemoBuilders.toGroup("l-auditors"), "mandala.auditor", everywhere);
    model.add(
        DemoBuilders.place("l-archive", "House archive", "house-archive", trust, null),
        DemoBuilders.place("l-press", "Press desk", "press-desk", trust, null),
        DemoBuilders.place("l-vans", "Vans", "vehicle", trust, null),
        DemoBuilders.place("l-van-1", "The blue van", "vehicle", trust, "l-vans"),
        DemoBuilders.place("l-van-2", "The grey van", "vehicle", trust, "l-vans"),
        DemoBuilders.place("l-wages", "Trust payroll", "payroll", trust, null));
    for (int i = 1; i <= 11; i++) {
      model.add(
          DemoBuilders.place(
              "l-wages-" + i, "Trust wages, month " + i, "pay-run", trust, "l-wages"));
    }
    model.add(
        DemoBuilders.grant(
            "l-clerks-wages",
            DemoBuilders.toGroup("l-wages-clerks"),
            DemoBuilders.role("payroll-officer"),
            everyType("payroll"),
            everyType("pay-run")),
        DemoBuilders.grant(
            "l-head-wages",
            DemoBuilders.toPerson("ottoline.marsh"),
            DemoBuilders.role("payroll-signer"),
            everyType("payroll"),
            everyType("pay-run")),
        DemoBuilders.grant(
            "l-head-pays",
            DemoBuilders.toPerson("ottoline.marsh"),
            DemoBuilders.role("payer"),
            everyType("purchasing"),
            everyType("order")),
        DemoBuilders.grant(
            "l-press-office",
            DemoBuilders.toPerson("lorne.whitby"),
            DemoBuilders.role("press-officer"),
            DemoBuilders.tree("l-press")),
        DemoBuilders.grant(
            "l-night-houses",
            DemoBuilders.toGroup("l-night-guards"),
            DemoBuilders.role("night-guard"),
            everyType("building"),
            everyType("probe")));
  }

  private static Clause everyType(String type) {
    return Clause.of(
        new Term.Tree(new ResourceKey("account:larkmoor")), new Term.OfType(new TypeKey(type)));
  }

  private void administrator(String key, Subject subject, String role, Clause scope) {
    model.add(
        DemoBuilders.throughSeals(
            DemoBuilders.grant("l-" + key, subject, DemoBuilders.role(role), scope),
            "Reaches into sealed accounts: the trust answers for them."));
  }

  private void person(
      String name,
      String account,
      String unit,
      @Nullable String manager,
      String title,
      boolean mfa) {
    model.add(DemoBuilders.person(name, account, unit, manager, title, mfa, NOVEMBER));
  }

  private static Group listed(String key, String name, String account, String... people) {
    List<Group.Member> members = new ArrayList<>();
    for (String who : people) {
      members.add(DemoBuilders.member(who));
    }
    return DemoBuilders.listed(key, name, account, members);
  }

  /** Those whom one meets by name in a museum. */
  void peopleOf(MuseumGenerator house) {
    switch (house.key) {
      case "quillhaven" -> quillhaven(house);
      case "fernwick" -> {
        house.add("Pia Lund", "care", "", "Curator", true);
        house.add("Dario Penn", "office", "", "Administrator", true);
        house.add("Ada Finch", "registry", "", "Registrar", true);
        model.add(
            DemoBuilders.grant(
                "f-administrator",
                DemoBuilders.toPerson("dario.penn"),
                DemoBuilders.role("mandala.directory-administrator"),
                DemoBuilders.account("fernwick")),
            DemoBuilders.grant(
                "f-reviewer",
                DemoBuilders.toPerson("dario.penn"),
                DemoBuilders.role("mandala.access-reviewer"),
                DemoBuilders.account("fernwick")),
            DemoBuilders.grant(
                "f-assigner",
                DemoBuilders.toPerson("dario.penn"),
                new Gives.OfPermission(Supplied.ACCESS_ASSIGN),
                DemoBuilders.account("fernwick")));
      }
      case "osier" -> house.add("Rolf Dane", "registry", "", "Archivist", false);
      case "brack" -> house.add("Hester Vane", "registry", "", "Cataloguer", false);
      default -> {
        // grown by the generator alone
      }
    }
  }

  private void quillhaven(MuseumGenerator house) {
    house.add("Tomas Brandt", "registry", "", "Registrar", true);
    house.add("Noor Haddad", "loans", "Tomas Brandt", "Loans officer", true);
    for (String registrar :
        List.of(
            "Mira Kestrel",
            "Jun Alder",
            "Odile Farrow",
            "Saar Venn",
            "Petra Lowe",
            "Bas Quill",
            "Ines Marlow")) {
      house.add(registrar, "registry", "Tomas Brandt", "Registrar", true);
    }
    house.add(
        DemoBuilders.in(
            DemoBuilders.person(
                "Kai Orrin", "quillhaven", "q-registry", "tomas.brandt", "Registrar", false, null),
            Principal.Status.INVITED,
            "Begins in December."));
    house.add(
        DemoBuilders.in(
            DemoBuilders.person(
                "Wren Okafor",
                "quillhaven",
                "q-care",
                "tomas.brandt",
                "Conservator",
                true,
                Instant.parse("2026-08-02T15:00:00Z")),
            Principal.Status.SUSPENDED,
            "On leave until spring."));
  }

  /** The workshop that all museums share. */
  void workshop() {
    model.add(
        new Account(
            new AccountKey("tarn"),
            About.named("Tarn Street Workshop"),
            new AccountKey("larkmoor"),
            false,
            false),
        DemoBuilders.unit("w-benches", "Benches", "tarn"));
    person("Cass Illingworth", "tarn", "w-benches", null, "Head conservator", true);
    for (int i = 0; i < 17; i++) {
      person(
          names.next(),
          "tarn",
          "w-benches",
          "cass.illingworth",
          "Conservator",
          random.nextBoolean());
    }
    model.add(
        DemoBuilders.ruled(
            "w-conservators",
            "Workshop conservators",
            "tarn",
            DemoBuilders.titled("Conservator", "Head conservator")),
        listed("w-leads", "Workshop leads", "tarn", "cass.illingworth"),
        DemoBuilders.place("w-studio", "Workshop studio", "studio", "tarn", null));
    for (int i = 1; i <= 110; i++) {
      model.add(
          DemoBuilders.place(
              "w-treatment-" + i, "Treatment " + i, "treatment", "tarn", "w-studio"));
    }
    model.add(
        DemoBuilders.grant(
            "w-bench",
            DemoBuilders.toGroup("w-conservators"),
            DemoBuilders.role("conservator"),
            DemoBuilders.tree("w-studio")),
        DemoBuilders.grant(
            "w-lead",
            DemoBuilders.toPerson("cass.illingworth"),
            DemoBuilders.role("head-conservator"),
            DemoBuilders.tree("w-studio")));
  }

  /** The outside insurer, a root account of its own. */
  void insurer() {
    model.add(DemoBuilders.unit("d-fine-art", "Fine art", "dunlow"));
    person("Sunniva Dunlow", "dunlow", "d-fine-art", null, "Partner", true);
    person("Gil Moreau", "dunlow", "d-fine-art", "sunniva.dunlow", "Assessor", true);
    for (int i = 0; i < 6; i++) {
      person(names.next(), "dunlow", "d-fine-art", "sunniva.dunlow", "Assessor", true);
    }
    model.add(
        DemoBuilders.ruled("d-assessors", "Assessors", "dunlow", DemoBuilders.titled("Assessor")),
        DemoBuilders.grant(
            "d-owner",
            DemoBuilders.toPerson("sunniva.dunlow"),
            DemoBuilders.role("mandala.owner"),
            DemoBuilders.tree("account:dunlow")));
  }

  /** Bridges between accounts, services, and the public. */
  void doors() {
    model.add(
        listed("f-couriers", "Couriers", "fernwick", "pia.lund", "ada.finch"),
        bridge(
            "couriers-to-quay",
            "quillhaven",
            "f-couriers",
            "courier",
            span("2026-03-01", "2026-11-30"),
            Bridge.Status.ACCEPTED,
            DemoBuilders.tree("q-loans-out")),
        bridge(
            "workshop-to-quillhaven",
            "quillhaven",
            "w-conservators",
            "conservator",
            Window.ALWAYS,
            Bridge.Status.ACCEPTED,
            DemoBuilders.tree("q-studio")),
        bridge(
            "workshop-to-fernwick",
            "fernwick",
            "w-conservators",
            "conservator",
            Window.ALWAYS,
            Bridge.Status.ACCEPTED,
            DemoBuilders.tree("f-studio")),
        bridge(
            "insurer-to-quillhaven",
            "quillhaven",
            "d-assessors",
            "loans-insurer",
            span("2026-01-01", "2027-01-01"),
            Bridge.Status.ACCEPTED,
            DemoBuilders.tree("q-loans-out")),
        bridge(
            "insurer-to-osier",
            "osier",
            "d-assessors",
            "reader",
            Window.ALWAYS,
            Bridge.Status.OFFERED,
            DemoBuilders.tree("o-rooms")));
    for (String house :
        List.of("q:quillhaven", "f:fernwick", "o:osier", "b:brack", "t:thornley", "s:saltmarsh")) {
      String prefix = house.substring(0, 1);
      String account = house.substring(2);
      model.add(
          DemoBuilders.service(
              prefix + "-climate-feed", "Climate feed", account, prefix + "-house"),
          DemoBuilders.grant(
              prefix + "-feed",
              toService(prefix + "-climate-feed"),
              DemoBuilders.role("probe"),
              DemoBuilders.tree(prefix + "-buildings")));
    }
    for (String service :
        List.of(
            "ticketing:Ticketing",
            "web-catalogue:Web catalogue",
            "backup:Backup",
            "wages-bank:Bank link",
            "label-printer:Label printer",
            "mail-room:Mail room")) {
      String[] parts = service.split(":");
      model.add(DemoBuilders.service(parts[0], parts[1], "larkmoor", "l-board"));
    }
    model.add(
        DemoBuilders.grant(
            "web-public",
            Subject.Public.ANYONE,
            new Gives.OfPermission(new PermissionKey("object.view")),
            Clause.of(
                new Term.InAccount(new AccountKey("quillhaven")),
                new Term.Labelled(Map.of("zone", "public")))),
        new ResourceCollection(
            new CollectionKey("touring-show"),
            About.named("Touring show"),
            new AccountKey("quillhaven"),
            List.of(
                new ResourceKey("q-obj-r1-1"),
                new ResourceKey("q-obj-r1-2"),
                new ResourceKey("q-obj-r2-5"),
                new ResourceKey("q-show-1"))));
  }

  private static Subject toService(String key) {
    return new Subject.OfPrincipal(Principal.Kind.SERVICE, new PrincipalKey(key));
  }

  private static Bridge bridge(
      String key,
      String target,
      String group,
      String role,
      Window window,
      Bridge.Status status,
      Clause scope) {
    return new Bridge(
        new BridgeKey(key),
        About.NONE,
        new AccountKey(target),
        new GroupKey(group),
        DemoBuilders.role(role),
        List.of(scope),
        window,
        status);
  }

  /** What a good administrator would find. */
  void troubles(Map<String, MuseumGenerator> houses) {
    // 1 a registrar who moved to another museum and kept the old rights
    model.add(
        new Guest(
            new About(null, null, "Worked at Fernwick until May 2026"),
            new PrincipalKey("odile.farrow"),
            new AccountKey("fernwick"),
            false,
            span("2023-02-01", null),
            null),
        DemoBuilders.grant(
            "odile-registrar-f",
            DemoBuilders.toPerson("odile.farrow"),
            DemoBuilders.role("registrar"),
            DemoBuilders.tree("f-rooms"),
            DemoBuilders.tree("f-loans-desk")),
        DemoBuilders.grant(
            "odile-loans-f",
            DemoBuilders.toPerson("odile.farrow"),
            DemoBuilders.role("loans-lead"),
            DemoBuilders.tree("f-loans-desk")),
        DemoBuilders.grant(
            "odile-buyer",
            DemoBuilders.toPerson("odile.farrow"),
            DemoBuilders.role("buyer"),
            DemoBuilders.tree("q-purchasing")),
        DemoBuilders.grant(
            "odile-approver",
            DemoBuilders.toPerson("odile.farrow"),
            DemoBuilders.role("buying-approver"),
            DemoBuilders.tree("q-purchasing")));
    // 2 a drafter who also approves
    model.add(
        DemoBuilders.grant(
            "petra-signs",
            DemoBuilders.toPerson("petra.lowe"),
            DemoBuilders.role("loans-lead"),
            DemoBuilders.tree("q-loans-desk")));
    // 3 a strongroom role given over everything
    model.add(
        DemoBuilders.throughSeals(
            DemoBuilders.grant(
                "strongroom-for-the-flood",
                DemoBuilders.toPerson("bas.quill"),
                DemoBuilders.role("strongroom-keeper"),
                Clause.of(new Term.Everything())),
            "For the flood of 2024, until things are dry."));
    // 4 a guest whose show closed in spring
    model.add(
        new Guest(
            new About(null, null, "For the show Low Water, closed in May 2026"),
            new PrincipalKey("gil.moreau"),
            new AccountKey("quillhaven"),
            false,
            span("2026-02-01", null),
            null),
        listed("q-visiting", "Visiting assessors", "quillhaven", "gil.moreau"),
        DemoBuilders.grant(
            "visiting-touring",
            DemoBuilders.toGroup("q-visiting"),
            DemoBuilders.role("reader"),
            Clause.of(new Term.InCollection(new CollectionKey("touring-show"))),
            DemoBuilders.tree("q-room-3")));
    // 5 a group nested the wrong way round: all archive staff are closed-paper readers
    model.add(
        DemoBuilders.listed(
            "o-closed-readers",
            "Closed-paper readers",
            "osier",
            List.of(DemoBuilders.group("o-staff"), DemoBuilders.member("rolf.dane"))),
        DemoBuilders.place("o-closed", "Closed papers", "house-archive", "osier", null),
        DemoBuilders.grant(
            "o-closed-papers",
            DemoBuilders.toGroup("o-closed-readers"),
            DemoBuilders.role("head-archivist"),
            DemoBuilders.tree("o-closed")));
    // 6 a deny that locks a gate: Thornley's volunteers include a loans officer
    String officer = houses.get("thornley").all("Loans officer").getFirst();
    model.add(
        listed("t-volunteers", "Volunteers", "thornley", officer),
        DemoBuilders.denying(
            "t-volunteers-no-desk",
            DemoBuilders.toGroup("t-volunteers"),
            "desk.open",
            "Volunteers do not lend.",
            DemoBuilders.tree("t-loans-desk")));
    // 7 a role that nobody uses (map-room-keeper) and 8 two roles alike in all but name
    // (cataloguer,
    // records-cataloguer) stand in roles.txt; one person holds the second
    model.add(
        DemoBuilders.grant(
            "hester-records",
            DemoBuilders.toPerson("hester.vane"),
            DemoBuilders.role("records-cataloguer"),
            DemoBuilders.tree("b-rooms")));
    // 9 a delegate who gains an excluded pair: Noor drafts, and may sign for Petra
    model.add(
        new Delegation(
            new DelegationKey("petra-leave"),
            new About("While Petra is away", null, null),
            new PrincipalKey("petra.lowe"),
            new PrincipalKey("noor.haddad"),
            new Delegation.Limit.Listed(
                List.of(
                    new Gives.OfPermission(new PermissionKey("loan.approve")),
                    DemoBuilders.role("registrar"))),
            List.of(DemoBuilders.tree("q-loans-desk")),
            span("2026-11-01", "2027-02-01")));
    // 10 a leaver who still owns a group
    model.add(
        DemoBuilders.in(
            DemoBuilders.person(
                "Hanne Sorrel",
                "brack",
                "b-registry",
                null,
                "Registrar",
                true,
                Instant.parse("2026-06-30T16:00:00Z")),
            Principal.Status.LEFT,
            "Left in June 2026."),
        new Group(
            new GroupKey("b-keyholders"),
            About.named("Key holders"),
            new AccountKey("brack"),
            false,
            List.of(DemoBuilders.member("hester.vane")),
            null,
            List.of(new PrincipalKey("hanne.sorrel"))),
        DemoBuilders.grant(
            "b-keys",
            DemoBuilders.toGroup("b-keyholders"),
            new Gives.OfPermission(new PermissionKey("building.keys")),
            DemoBuilders.tree("b-buildings")));
    // 11 a service with a person's role
    model.add(
        DemoBuilders.grant(
            "printer-registrar",
            toService("label-printer"),
            DemoBuilders.role("registrar"),
            DemoBuilders.tree("account:larkmoor")));
    // and one who is away now and then: a deputy who must switch it on
    model.add(
        DemoBuilders.onDemand(
            DemoBuilders.grant(
                "noor-deputy",
                DemoBuilders.toPerson("noor.haddad"),
                DemoBuilders.role("loans-lead"),
                DemoBuilders.tree("q-loans-out"))));
    model.add(
        DemoBuilders.denying(
            "ines-no-disposal",
            DemoBuilders.toPerson("ines.marlow"),
            "object.move",
            "Hurt her back; no moving until better.",
            DemoBuilders.tree("q-rooms")));
    model.add(
        DemoBuilders.grant(
            "ines-ledger",
            DemoBuilders.toPerson("ines.marlow"),
            DemoBuilders.role("ledger-clerk"),
            Clause.of(
                new Term.OfType(new TypeKey("gift")),
                new Term.InAccount(new AccountKey("quillhaven")))));
  }

  /** A guest who sees three objects, and people who began from a pattern. */
  void beginners() {
    person("Nell Harrow", "tarn", null, null, "Visiting scholar", false);
    model.add(
        new Guest(
            new About(null, null, "For her book on hall clocks"),
            new PrincipalKey("nell.harrow"),
            new AccountKey("brack"),
            false,
            span("2026-10-01", "2027-04-01"),
            null),
        DemoBuilders.grant(
            "nell-clocks",
            DemoBuilders.toPerson("nell.harrow"),
            new Gives.OfPermission(new PermissionKey("object.view")),
            DemoBuilders.only("b-obj-r1-1"),
            DemoBuilders.only("b-obj-r1-2"),
            DemoBuilders.only("b-obj-r1-3")));
    PatternKey trainee = new PatternKey("trainee-registrar");
    model.add(
        new Pattern(
            trainee, About.named("Trainee registrar"), new AccountKey("quillhaven"), List.of()),
        new Pattern(
            new PatternKey("gallery-relief"),
            About.named("Relief in the galleries"),
            new AccountKey("fernwick"),
            List.of()),
        DemoBuilders.grant(
            "trainees-read",
            new Subject.OfPattern(trainee),
            DemoBuilders.role("reader"),
            DemoBuilders.tree("q-rooms")),
        DemoBuilders.grant(
            "trainees-desk",
            new Subject.OfPattern(trainee),
            new Gives.OfPermission(new PermissionKey("loan.view")),
            DemoBuilders.tree("q-loans-desk")));
    for (String name : List.of("Ada Renn", "Milo Harte", "Suki Orme")) {
      Principal it =
          DemoBuilders.person(
              name,
              "quillhaven",
              "q-registry",
              "tomas.brandt",
              "Trainee registrar",
              true,
              NOVEMBER);
      model.add(Rewritten.pattern(it, trainee));
    }
  }

  /** What must stay true. */
  void statements() {
    model.add(
        new Exclusion(
            new ExclusionKey("draft-and-approve"),
            About.named("Drafts and approves the same loan"),
            null,
            List.of(
                List.of(new PermissionKey("loan.draft")),
                List.of(new PermissionKey("loan.approve"))),
            1,
            Exclusion.Where.RESOURCE,
            List.of()),
        new Exclusion(
            new ExclusionKey("order-and-pay"),
            About.named("Orders and pays"),
            null,
            List.of(
                List.of(new PermissionKey("order.draft")),
                List.of(new PermissionKey("order.approve")),
                List.of(new PermissionKey("order.pay"))),
            1,
            Exclusion.Where.ACCOUNT,
            List.of()),
        expectation(
            "registrars-read",
            "Registrars can read their rooms",
            Expectation.Form.CAN,
            List.of(DemoBuilders.toGroup("q-registrars")),
            "object.view",
            DemoBuilders.tree("q-rooms")),
        expectation(
            "no-outside-edit",
            "Nobody from outside edits",
            Expectation.Form.CANNOT,
            List.of(new Subject.OfAccount(new AccountKey("dunlow"))),
            "object.edit",
            Clause.of(new Term.Everything())),
        expectation(
            "wages-stay-inside",
            "Only wages clerks and their head prepare pay",
            Expectation.Form.ONLY,
            List.of(
                DemoBuilders.toGroup("l-wages-clerks"), DemoBuilders.toPerson("ottoline.marsh")),
            "pay-run.prepare",
            Clause.of(new Term.Everything())));
  }

  private static Expectation expectation(
      String key,
      String name,
      Expectation.Form form,
      List<Subject> subjects,
      String permission,
      Clause scope) {
    return new Expectation(
        new ExpectationKey(key),
        About.named(name),
        null,
        form,
        subjects,
        List.of(new PermissionKey(permission)),
        List.of(scope),
        null,
        null);
  }
}
