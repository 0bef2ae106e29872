import { i18n } from "@lingui/core";
import { compileMessage } from "@lingui/message-utils/compileMessage";

i18n.setMessagesCompiler(compileMessage);
i18n.load("en", {});
i18n.activate("en");
