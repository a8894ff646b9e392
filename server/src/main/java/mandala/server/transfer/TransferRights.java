package mandala.server.transfer;

import java.util.List;
import mandala.core.engine.Engine;
import mandala.core.model.Permission;
import mandala.core.model.Supplied;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.Key;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.question.Session;
import mandala.server.platform.Problem;

/** Who may export the whole model, and who may replace it. */
final class TransferRights {

  private TransferRights() {}

  /** {@return the keys of all accounts} */
  static List<String> accounts(Engine engine) {
    return engine.catalogue().accounts().keySet().stream().map(Key::value).toList();
  }

  /** Whoever exports everything must read every account. */
  static void requireExport(Engine engine, Session session) {
    for (AccountKey account : engine.catalogue().accounts().keySet()) {
      requireOn(engine, session, Supplied.DIRECTORY_READ, account, "export the model");
    }
  }

  /** Replacing everything asks for every administering right on every account. */
  static void requireImport(Engine engine, Session session) {
    for (AccountKey account : engine.catalogue().accounts().keySet()) {
      for (Permission permission :
          Supplied.permissions(engine.catalogue().model().resourceTypes())) {
        if (permission.accessClass() == Permission.AccessClass.ADMINISTER) {
          requireOn(engine, session, permission.key(), account, "replace the model");
        }
      }
    }
  }

  private static void requireOn(
      Engine engine, Session session, PermissionKey permission, AccountKey account, String what) {
    ResourceKey resource = ResourceKey.of(account);
    if (!engine.decide(session.asks(permission, resource)).allowed()) {
      // which account it is, and that there is one, is not told to who may not read it
      throw Problem.forbidden(
          "To "
              + what
              + " you need '"
              + permission
              + "' on every account. Ask an owner of all of them"
              + (session.mfa() ? "." : ", or show your second factor and try again."));
    }
  }
}
