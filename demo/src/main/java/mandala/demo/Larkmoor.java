package mandala.demo;

import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import mandala.core.model.About;
import mandala.core.model.AccessModel;
import mandala.core.model.Account;
import mandala.core.model.ResourceType;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.TypeKey;

/**
 * The demo: the Larkmoor Museums Trust, six museums, a workshop they share and an outside insurer,
 * all made up. A hand-written heart ({@link NamedCast}) with planted troubles, grown to size by a
 * generator; the same at every call.
 */
public final class Larkmoor {

  private static final long SEED = 20_261_123L;

  private static final List<String> TYPES =
      List.of(
          "collection-room:Collection room",
          "object:Object",
          "strongroom:Strongroom",
          "loan-desk:Loans desk",
          "loan:Loan",
          "studio:Studio",
          "treatment:Treatment",
          "programme:Programme",
          "exhibition:Exhibition",
          "ledger:Donors' ledger",
          "gift:Gift",
          "purchasing:Purchasing",
          "order:Order",
          "payroll:Payroll",
          "pay-run:Pay run",
          "building:Building",
          "probe:Climate probe",
          "shop:Shop",
          "stock-line:Stock line",
          "house-archive:House archive",
          "visit:Visit",
          "press-desk:Press desk",
          "vehicle:Van");

  private Larkmoor() {}

  /** {@return the whole model}, in the canonical order */
  public static AccessModel model() {
    AccessModel.Builder model = AccessModel.builder();
    Random random = new Random(SEED);
    Names names = new Names(random);
    for (String type : TYPES) {
      String[] parts = type.split(":");
      model.add(new ResourceType(new TypeKey(parts[0]), About.named(parts[1]), null));
    }
    RightsFiles.addTo(model);
    account(model, "larkmoor", "Larkmoor Museums Trust", false);
    account(model, "dunlow", "Dunlow Art Insurers", false);
    NamedCast heart = new NamedCast(model, random, names);
    heart.trust();
    Map<String, MuseumGenerator> houses = new LinkedHashMap<>();
    house(houses, model, random, names, "quillhaven", "Quillhaven Sea Museum", "q", 92, 1.0, heart);
    house(houses, model, random, names, "fernwick", "Fernwick Gallery", "f", 72, 0.75, heart);
    house(houses, model, random, names, "osier", "Osier House Archive", "o", 55, 0.65, heart);
    house(houses, model, random, names, "brack", "Brack Hall", "b", 48, 0.55, heart);
    house(houses, model, random, names, "thornley", "Thornley Mill", "t", 46, 0.5, heart);
    house(houses, model, random, names, "saltmarsh", "Saltmarsh Railway", "s", 40, 0.45, heart);
    heart.workshop();
    heart.insurer();
    heart.doors();
    heart.troubles(houses);
    heart.beginners();
    heart.statements();
    return model.build().sorted();
  }

  private static void account(AccessModel.Builder model, String key, String name, boolean below) {
    model.add(
        new Account(
            new AccountKey(key),
            About.named(name),
            below ? new AccountKey("larkmoor") : null,
            false,
            key.equals("osier")));
  }

  private static void house(
      Map<String, MuseumGenerator> houses,
      AccessModel.Builder model,
      Random random,
      Names names,
      String key,
      String name,
      String prefix,
      int people,
      double scale,
      NamedCast heart) {
    account(model, key, name, true);
    MuseumGenerator house = new MuseumGenerator(key, name, prefix, model, random, names);
    houses.put(key, house);
    house.units();
    heart.peopleOf(house);
    house.fill(people);
    house.groups();
    house.places(scale);
    house.assignments();
  }

  /**
   * {@return the people to sign in as}, and what makes each worth while, in the order to show them
   */
  public static Map<PrincipalKey, String> signIns() {
    Map<PrincipalKey, String> who = new LinkedHashMap<>();
    who.put(new PrincipalKey("ilse.varga"), "sees and changes all of the trust");
    who.put(new PrincipalKey("vera.lindqvist"), "sees all of the trust, changes nothing");
    who.put(
        new PrincipalKey("dario.penn"), "looks after Fernwick Gallery, people and their access");
    who.put(new PrincipalKey("anselm.reeve"), "reviews access in the trust, changes nothing");
    who.put(
        new PrincipalKey("tomas.brandt"), "leads the registry at Quillhaven, decides in reviews");
    who.put(new PrincipalKey("noemi.mbeki"), "leads a team, decides in reviews");
    who.put(new PrincipalKey("noor.haddad"), "sees her own access only");
    who.put(new PrincipalKey("marten.holloway"), "owns the trust's account");
    return who;
  }
}
