// Tables for a spreadsheet, to and from files, with what went wrong said in the window.
#pragma once

#include "model/project.h"

#include <QString>

#include <functional>

namespace gabarit::app {

class Session;

/// Reads a table and works it in as one step. False with a notice when it could not be.
bool readTableFile(Session& session, const QString& path, const QString& undo,
                   const std::function<Result<model::Project>(const std::string& text, const std::string& file)>& work);
bool writeTableFile(Session& session, const QString& path, const std::string& text);

} // namespace gabarit::app
