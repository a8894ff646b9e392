/** What people are told of: in the application, by mail at once, or in one mail a day. */
@NullMarked
package mandala.server.notice;

import org.jspecify.annotations.NullMarked;
