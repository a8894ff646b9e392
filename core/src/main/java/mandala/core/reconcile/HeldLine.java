package mandala.core.reconcile;

/**
 * What another system says that somebody holds, in its own terms.
 *
 * @param identity who, such as a sign-in name or an e-mail address
 * @param entitlement what, such as a level or a group of that system
 * @param place where; empty where the system has no places
 */
public record HeldLine(String identity, String entitlement, String place) {}
