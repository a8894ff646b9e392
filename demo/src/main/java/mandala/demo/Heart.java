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
import mandala.core.model.Key;
import mandala.core.model.Pattern;
import mandala.core.model.Principal;
import mandala.core.model.ResourceCollection;
import mandala.core.model.Subject;
import mandala.core.model.Supplied;
import mandala.core.model.Term;
import mandala.core.model.Window;
import org.jspecify.annotations.Nullable;

/**
 * The hand-written part of the demo: who one meets first, and the planted troubles (docs/demo.md).
 */
@SuppressWarnings("NullAway") // javac drops Key.@Nullable X from compact constructors' class files
final class Heart {

  private static final Instant NOVEMBER = Instant.parse("2026-11-21T09:30:00Z");

  private final AccessModel.Builder model;
  private final Random random;
  private final Names names;

  Heart(AccessModel.Builder model, Random random, Names names) {
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
        Make.unit("l-board", "Trust office", trust),
        Make.unit("l-security", "Security", trust),
        Make.unit("l-wages", "Wages and accounts", trust),
        Make.unit("l-night", "Night watch", trust));
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
        Make.ruled("l-night-guards", "Night guards", trust, Make.titled("Night guard")),
        Make.ruled("l-wages-clerks", "Wages clerks", trust, Make.titled("Wages clerk")),
        listed("l-security-office", "Security office", trust, "anselm.reeve"),
        listed("l-auditors", "Auditors", trust, "vera.lindqvist"),
        listed("l-directors", "Directors", trust, "marten.holloway"));
    Clause everywhere = Make.tree("account:larkmoor");
    administrator("owners", Make.toPerson("marten.holloway"), "mandala.owner", everywhere);
    administrator(
        "security", Make.toPerson("ilse.varga"), "mandala.security-administrator", everywhere);
    administrator(
        "reviewers", Make.toGroup("l-security-office"), "mandala.access-reviewer", everywhere);
    administrator("auditors", Make.toGroup("l-auditors"), "mandala.auditor", everywhere);
    model.add(
        Make.place("l-archive", "House archive", "house-archive", trust, null),
        Make.place("l-press", "Press desk", "press-desk", trust, null),
        Make.place("l-vans", "Vans", "vehicle", trust, null),
        Make.place("l-van-1", "The blue van", "vehicle", trust, "l-vans"),
        Make.place("l-van-2", "The grey van", "vehicle", trust, "l-vans"),
        Make.place("l-wages", "Trust payroll", "payroll", trust, null));
    for (int i = 1; i <= 11; i++) {
      model.add(Make.place("l-wages-" + i, "Trust wages, month " + i, "pay-run", trust, "l-wages"));
    }
    model.add(
        Make.grant(
            "l-clerks-wages",
            Make.toGroup("l-wages-clerks"),
            Make.role("payroll-officer"),
            everyType("payroll"),
            everyType("pay-run")),
        Make.grant(
            "l-head-wages",
            Make.toPerson("ottoline.marsh"),
            Make.role("payroll-signer"),
            everyType("payroll"),
            everyType("pay-run")),
        Make.grant(
            "l-head-pays",
            Make.toPerson("ottoline.marsh"),
            Make.role("payer"),
            everyType("purchasing"),
            everyType("order")),
        Make.grant(
            "l-press-office",
            Make.toPerson("lorne.whitby"),
            Make.role("press-officer"),
            Make.tree("l-press")),
        Make.grant(
            "l-night-houses",
            Make.toGroup("l-night-guards"),
            Make.role("night-guard"),
            everyType("building"),
            everyType("probe")));
  }

  private static Clause everyType(String type) {
    return Clause.of(
        new Term.Tree(new Key.Resource("account:larkmoor")), new Term.OfType(new Key.Type(type)));
  }

  private void administrator(String key, Subject subject, String role, Clause scope) {
    model.add(
        Make.throughSeals(
            Make.grant("l-" + key, subject, Make.role(role), scope),
            "Reaches into sealed accounts: the trust answers for them."));
  }

  private void person(
      String name,
      String account,
      String unit,
      @Nullable String manager,
      String title,
      boolean mfa) {
    model.add(Make.person(name, account, unit, manager, title, mfa, NOVEMBER));
  }

  private static Group listed(String key, String name, String account, String... people) {
    List<Group.Member> members = new ArrayList<>();
    for (String who : people) {
      members.add(Make.member(who));
    }
    return Make.listed(key, name, account, members);
  }

  /** Those whom one meets by name in a museum. */
  void peopleOf(House house) {
    switch (house.key) {
      case "quillhaven" -> quillhaven(house);
      case "fernwick" -> {
        house.add("Pia Lund", "care", "", "Curator", true);
        house.add("Dario Penn", "office", "", "Administrator", true);
        house.add("Ada Finch", "registry", "", "Registrar", true);
        model.add(
            Make.grant(
                "f-administrator",
                Make.toPerson("dario.penn"),
                Make.role("mandala.directory-administrator"),
                Make.account("fernwick")),
            Make.grant(
                "f-reviewer",
                Make.toPerson("dario.penn"),
                Make.role("mandala.access-reviewer"),
                Make.account("fernwick")),
            Make.grant(
                "f-assigner",
                Make.toPerson("dario.penn"),
                new Gives.OfPermission(Supplied.ACCESS_ASSIGN),
                Make.account("fernwick")));
      }
      case "osier" -> house.add("Rolf Dane", "registry", "", "Archivist", false);
      case "brack" -> house.add("Hester Vane", "registry", "", "Cataloguer", false);
      default -> {
        // grown by the generator alone
      }
    }
  }

  private void quillhaven(House house) {
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
        Make.in(
            Make.person(
                "Kai Orrin", "quillhaven", "q-registry", "tomas.brandt", "Registrar", false, null),
            Principal.Status.INVITED,
            "Begins in December."));
    house.add(
        Make.in(
            Make.person(
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
            new Key.Account("tarn"),
            About.named("Tarn Street Workshop"),
            new Key.Account("larkmoor"),
            false,
            false),
        Make.unit("w-benches", "Benches", "tarn"));
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
        Make.ruled(
            "w-conservators",
            "Workshop conservators",
            "tarn",
            Make.titled("Conservator", "Head conservator")),
        listed("w-leads", "Workshop leads", "tarn", "cass.illingworth"),
        Make.place("w-studio", "Workshop studio", "studio", "tarn", null));
    for (int i = 1; i <= 110; i++) {
      model.add(Make.place("w-treatment-" + i, "Treatment " + i, "treatment", "tarn", "w-studio"));
    }
    model.add(
        Make.grant(
            "w-bench",
            Make.toGroup("w-conservators"),
            Make.role("conservator"),
            Make.tree("w-studio")),
        Make.grant(
            "w-lead",
            Make.toPerson("cass.illingworth"),
            Make.role("head-conservator"),
            Make.tree("w-studio")));
  }

  /** The outside insurer, a root account of its own. */
  void insurer() {
    model.add(Make.unit("d-fine-art", "Fine art", "dunlow"));
    person("Sunniva Dunlow", "dunlow", "d-fine-art", null, "Partner", true);
    person("Gil Moreau", "dunlow", "d-fine-art", "sunniva.dunlow", "Assessor", true);
    for (int i = 0; i < 6; i++) {
      person(names.next(), "dunlow", "d-fine-art", "sunniva.dunlow", "Assessor", true);
    }
    model.add(
        Make.ruled("d-assessors", "Assessors", "dunlow", Make.titled("Assessor")),
        Make.grant(
            "d-owner",
            Make.toPerson("sunniva.dunlow"),
            Make.role("mandala.owner"),
            Make.tree("account:dunlow")));
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
            Make.tree("q-loans-out")),
        bridge(
            "workshop-to-quillhaven",
            "quillhaven",
            "w-conservators",
            "conservator",
            Window.ALWAYS,
            Bridge.Status.ACCEPTED,
            Make.tree("q-studio")),
        bridge(
            "workshop-to-fernwick",
            "fernwick",
            "w-conservators",
            "conservator",
            Window.ALWAYS,
            Bridge.Status.ACCEPTED,
            Make.tree("f-studio")),
        bridge(
            "insurer-to-quillhaven",
            "quillhaven",
            "d-assessors",
            "loans-insurer",
            span("2026-01-01", "2027-01-01"),
            Bridge.Status.ACCEPTED,
            Make.tree("q-loans-out")),
        bridge(
            "insurer-to-osier",
            "osier",
            "d-assessors",
            "reader",
            Window.ALWAYS,
            Bridge.Status.OFFERED,
            Make.tree("o-rooms")));
    for (String house :
        List.of("q:quillhaven", "f:fernwick", "o:osier", "b:brack", "t:thornley", "s:saltmarsh")) {
      String prefix = house.substring(0, 1);
      String account = house.substring(2);
      model.add(
          Make.service(prefix + "-climate-feed", "Climate feed", account, prefix + "-house"),
          Make.grant(
              prefix + "-feed",
              toService(prefix + "-climate-feed"),
              Make.role("probe"),
              Make.tree(prefix + "-buildings")));
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
      model.add(Make.service(parts[0], parts[1], "larkmoor", "l-board"));
    }
    model.add(
        Make.grant(
            "web-public",
            Subject.Public.ANYONE,
            new Gives.OfPermission(new Key.Permission("object.view")),
            Clause.of(
                new Term.InAccount(new Key.Account("quillhaven")),
                new Term.Labelled(Map.of("zone", "public")))),
        new ResourceCollection(
            new Key.Collection("touring-show"),
            About.named("Touring show"),
            new Key.Account("quillhaven"),
            List.of(
                new Key.Resource("q-obj-r1-1"),
                new Key.Resource("q-obj-r1-2"),
                new Key.Resource("q-obj-r2-5"),
                new Key.Resource("q-show-1"))));
  }

  private static Subject toService(String key) {
    return new Subject.OfPrincipal(Principal.Kind.SERVICE, new Key.Principal(key));
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
        new Key.Bridge(key),
        About.NONE,
        new Key.Account(target),
        new Key.Group(group),
        Make.role(role),
        List.of(scope),
        window,
        status);
  }

  /** What a good administrator would find. */
  void troubles(Map<String, House> houses) {
    // 1 a registrar who moved to another museum and kept the old rights
    model.add(
        new Guest(
            new About(null, null, "Worked at Fernwick until May 2026"),
            new Key.Principal("odile.farrow"),
            new Key.Account("fernwick"),
            false,
            span("2023-02-01", null),
            null),
        Make.grant(
            "odile-registrar-f",
            Make.toPerson("odile.farrow"),
            Make.role("registrar"),
            Make.tree("f-rooms"),
            Make.tree("f-loans-desk")),
        Make.grant(
            "odile-loans-f",
            Make.toPerson("odile.farrow"),
            Make.role("loans-lead"),
            Make.tree("f-loans-desk")),
        Make.grant(
            "odile-buyer",
            Make.toPerson("odile.farrow"),
            Make.role("buyer"),
            Make.tree("q-purchasing")),
        Make.grant(
            "odile-approver",
            Make.toPerson("odile.farrow"),
            Make.role("buying-approver"),
            Make.tree("q-purchasing")));
    // 2 a drafter who also approves
    model.add(
        Make.grant(
            "petra-signs",
            Make.toPerson("petra.lowe"),
            Make.role("loans-lead"),
            Make.tree("q-loans-desk")));
    // 3 a strongroom role given over everything
    model.add(
        Make.throughSeals(
            Make.grant(
                "strongroom-for-the-flood",
                Make.toPerson("bas.quill"),
                Make.role("strongroom-keeper"),
                Clause.of(new Term.Everything())),
            "For the flood of 2024, until things are dry."));
    // 4 a guest whose show closed in spring
    model.add(
        new Guest(
            new About(null, null, "For the show Low Water, closed in May 2026"),
            new Key.Principal("gil.moreau"),
            new Key.Account("quillhaven"),
            false,
            span("2026-02-01", null),
            null),
        listed("q-visiting", "Visiting assessors", "quillhaven", "gil.moreau"),
        Make.grant(
            "visiting-touring",
            Make.toGroup("q-visiting"),
            Make.role("reader"),
            Clause.of(new Term.InCollection(new Key.Collection("touring-show"))),
            Make.tree("q-room-3")));
    // 5 a group nested the wrong way round: all archive staff are closed-paper readers
    model.add(
        Make.listed(
            "o-closed-readers",
            "Closed-paper readers",
            "osier",
            List.of(Make.group("o-staff"), Make.member("rolf.dane"))),
        Make.place("o-closed", "Closed papers", "house-archive", "osier", null),
        Make.grant(
            "o-closed-papers",
            Make.toGroup("o-closed-readers"),
            Make.role("head-archivist"),
            Make.tree("o-closed")));
    // 6 a deny that locks a gate: Thornley's volunteers include a loans officer
    String officer = houses.get("thornley").all("Loans officer").getFirst();
    model.add(
        listed("t-volunteers", "Volunteers", "thornley", officer),
        Make.denying(
            "t-volunteers-no-desk",
            Make.toGroup("t-volunteers"),
            "desk.open",
            "Volunteers do not lend.",
            Make.tree("t-loans-desk")));
    // 7 a role that nobody uses (map-room-keeper) and 8 two roles alike in all but name
    // (cataloguer,
    // records-cataloguer) stand in roles.txt; one person holds the second
    model.add(
        Make.grant(
            "hester-records",
            Make.toPerson("hester.vane"),
            Make.role("records-cataloguer"),
            Make.tree("b-rooms")));
    // 9 a delegate who gains an excluded pair: Noor drafts, and may sign for Petra
    model.add(
        new Delegation(
            new Key.Delegation("petra-leave"),
            new About("While Petra is away", null, null),
            new Key.Principal("petra.lowe"),
            new Key.Principal("noor.haddad"),
            new Delegation.Limit.Listed(
                List.of(
                    new Gives.OfPermission(new Key.Permission("loan.approve")),
                    Make.role("registrar"))),
            List.of(Make.tree("q-loans-desk")),
            span("2026-11-01", "2027-02-01")));
    // 10 a leaver who still owns a group
    model.add(
        Make.in(
            Make.person(
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
            new Key.Group("b-keyholders"),
            About.named("Key holders"),
            new Key.Account("brack"),
            false,
            List.of(Make.member("hester.vane")),
            null,
            List.of(new Key.Principal("hanne.sorrel"))),
        Make.grant(
            "b-keys",
            Make.toGroup("b-keyholders"),
            new Gives.OfPermission(new Key.Permission("building.keys")),
            Make.tree("b-buildings")));
    // 11 a service with a person's role
    model.add(
        Make.grant(
            "printer-registrar",
            toService("label-printer"),
            Make.role("registrar"),
            Make.tree("account:larkmoor")));
    // and one who is away now and then: a deputy who must switch it on
    model.add(
        Make.onDemand(
            Make.grant(
                "noor-deputy",
                Make.toPerson("noor.haddad"),
                Make.role("loans-lead"),
                Make.tree("q-loans-out"))));
    model.add(
        Make.denying(
            "ines-no-disposal",
            Make.toPerson("ines.marlow"),
            "object.move",
            "Hurt her back; no moving until better.",
            Make.tree("q-rooms")));
    model.add(
        Make.grant(
            "ines-ledger",
            Make.toPerson("ines.marlow"),
            Make.role("ledger-clerk"),
            Clause.of(
                new Term.OfType(new Key.Type("gift")),
                new Term.InAccount(new Key.Account("quillhaven")))));
  }

  /** A guest who sees three objects, and people who began from a pattern. */
  void beginners() {
    person("Nell Harrow", "tarn", null, null, "Visiting scholar", false);
    model.add(
        new Guest(
            new About(null, null, "For her book on hall clocks"),
            new Key.Principal("nell.harrow"),
            new Key.Account("brack"),
            false,
            span("2026-10-01", "2027-04-01"),
            null),
        Make.grant(
            "nell-clocks",
            Make.toPerson("nell.harrow"),
            new Gives.OfPermission(new Key.Permission("object.view")),
            Make.only("b-obj-r1-1"),
            Make.only("b-obj-r1-2"),
            Make.only("b-obj-r1-3")));
    Key.Pattern trainee = new Key.Pattern("trainee-registrar");
    model.add(
        new Pattern(
            trainee, About.named("Trainee registrar"), new Key.Account("quillhaven"), List.of()),
        new Pattern(
            new Key.Pattern("gallery-relief"),
            About.named("Relief in the galleries"),
            new Key.Account("fernwick"),
            List.of()),
        Make.grant(
            "trainees-read",
            new Subject.OfPattern(trainee),
            Make.role("reader"),
            Make.tree("q-rooms")),
        Make.grant(
            "trainees-desk",
            new Subject.OfPattern(trainee),
            new Gives.OfPermission(new Key.Permission("loan.view")),
            Make.tree("q-loans-desk")));
    for (String name : List.of("Ada Renn", "Milo Harte", "Suki Orme")) {
      Principal it =
          Make.person(
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
            new Key.Exclusion("draft-and-approve"),
            About.named("Drafts and approves the same loan"),
            null,
            List.of(
                List.of(new Key.Permission("loan.draft")),
                List.of(new Key.Permission("loan.approve"))),
            1,
            Exclusion.Where.RESOURCE,
            List.of()),
        new Exclusion(
            new Key.Exclusion("order-and-pay"),
            About.named("Orders and pays"),
            null,
            List.of(
                List.of(new Key.Permission("order.draft")),
                List.of(new Key.Permission("order.approve")),
                List.of(new Key.Permission("order.pay"))),
            1,
            Exclusion.Where.ACCOUNT,
            List.of()),
        expectation(
            "registrars-read",
            "Registrars can read their rooms",
            Expectation.Form.CAN,
            List.of(Make.toGroup("q-registrars")),
            "object.view",
            Make.tree("q-rooms")),
        expectation(
            "no-outside-edit",
            "Nobody from outside edits",
            Expectation.Form.CANNOT,
            List.of(new Subject.OfAccount(new Key.Account("dunlow"))),
            "object.edit",
            Clause.of(new Term.Everything())),
        expectation(
            "wages-stay-inside",
            "Only wages clerks and their head prepare pay",
            Expectation.Form.ONLY,
            List.of(Make.toGroup("l-wages-clerks"), Make.toPerson("ottoline.marsh")),
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
        new Key.Expectation(key),
        About.named(name),
        null,
        form,
        subjects,
        List.of(new Key.Permission(permission)),
        List.of(scope),
        null,
        null);
  }
}
