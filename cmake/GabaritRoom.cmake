# gabarit_room(NAME fit SOURCES gap.cpp … USES shape proximity [PRIVATE_LIBS …] [PUBLIC_LIBS …])
#
# A room is a folder of core/ or app/ and a target of one name. Its headers are seen as "<room>/<header>.h", through a
# link that only the targets which use the room have on their include path: including a room that is not named under
# USES does not build. WINDOW: it has widgets.
function(gabarit_room)
  cmake_parse_arguments(ROOM "WINDOW" "NAME" "SOURCES;USES;PRIVATE_LIBS;PUBLIC_LIBS" ${ARGN})
  gabarit_room_target(target ${ROOM_NAME})
  set(door "${CMAKE_BINARY_DIR}/rooms/${target}")
  get_filename_component(inside "${door}/${ROOM_NAME}" DIRECTORY)
  file(MAKE_DIRECTORY "${inside}")
  file(CREATE_LINK "${CMAKE_CURRENT_SOURCE_DIR}" "${door}/${ROOM_NAME}" SYMBOLIC)

  add_library(${target} STATIC ${ROOM_SOURCES})
  target_include_directories(${target} PUBLIC "${door}")
  foreach(used IN LISTS ROOM_USES)
    gabarit_room_target(its ${used})
    target_link_libraries(${target} PUBLIC ${its})
  endforeach()
  target_link_libraries(${target} PUBLIC ${ROOM_PUBLIC_LIBS} PRIVATE gabarit_settings ${ROOM_PRIVATE_LIBS})
  if(ROOM_WINDOW)
    gabarit_moc(${target} "${ROOM_NAME}/" ${ROOM_SOURCES})
    gabarit_grouped(${target} 12)
    gabarit_plain(${target})
  else()
    gabarit_grouped(${target} 6)
  endif()
  gabarit_tidy(${target})
endfunction()

# gabarit_moc(target DOOR source …): runs Qt's metaobject compiler for those sources that include what it makes:
# "moc_NAME.cpp" of the header beside it, seen as DOOR + NAME.h, or "NAME.moc" of itself. By itself it takes milliseconds;
# told where headers are (as AUTOMOC does) it would read them all again for each source, which was a tenth of a build.
function(gabarit_moc target door)
  set(folder "${CMAKE_CURRENT_BINARY_DIR}/${target}_moc")
  file(MAKE_DIRECTORY "${folder}")
  target_include_directories(${target} PRIVATE "${folder}")
  foreach(source IN LISTS ARGN)
    get_filename_component(source "${source}" ABSOLUTE)
    get_filename_component(name "${source}" NAME_WE)
    get_filename_component(beside "${source}" DIRECTORY)
    if(NOT EXISTS "${source}")
      continue() # it is made, and includes none
    endif()
    file(STRINGS "${source}" wanted REGEX "^#include \"(moc_${name}[.]cpp|${name}[.]moc)\"")
    if(NOT wanted)
      continue()
    endif()
    if(wanted MATCHES "moc_")
      set(made "${folder}/moc_${name}.cpp")
      set(read "${beside}/${name}.h" -f "${door}${name}.h")
    else()
      set(made "${folder}/${name}.moc")
      set(read "${source}")
    endif()
    list(GET read 0 depends)
    add_custom_command(OUTPUT "${made}" COMMAND Qt6::moc ${read} -o "${made}" DEPENDS "${depends}" VERBATIM)
    set_source_files_properties("${made}" PROPERTIES HEADER_FILE_ONLY ON)
    target_sources(${target} PRIVATE "${made}")
  endforeach()
endfunction()

# gabarit_room_target(OUT stages/place): the target of a room, gabarit_stages_place.
function(gabarit_room_target out name)
  string(REPLACE "/" "_" name "${name}")
  set(${out} "gabarit_${name}" PARENT_SCOPE)
endfunction()

# gabarit_stage(NAME stages/place SOURCES … USES …): a room that has a page of the window, `gabarit::app::placeStage()`
# (app/kit/stage.h). app/stages gathers them all.
function(gabarit_stage)
  gabarit_room(WINDOW ${ARGN})
  cmake_parse_arguments(ROOM "" "NAME" "" ${ARGN})
  get_filename_component(name "${ROOM_NAME}" NAME)
  set_property(GLOBAL APPEND PROPERTY gabarit_stages ${name})
endfunction()

# gabarit_section(NAME clutch/section SOURCES clutch.cpp): a room that describes a section of the project,
# `gabarit::clutch::section()` (core/model/sections.h), and sees the model alone. What other rooms read of a discipline is
# this, never the discipline. core/sections gathers them all.
function(gabarit_section)
  gabarit_room(${ARGN} USES model)
  cmake_parse_arguments(ROOM "" "NAME" "" ${ARGN})
  string(REGEX REPLACE "/.*" "" name "${ROOM_NAME}")
  gabarit_room_target(target ${ROOM_NAME})
  set_property(GLOBAL APPEND PROPERTY gabarit_sections ${name})
  set_property(GLOBAL APPEND PROPERTY gabarit_section_rooms ${target})
endfunction()

# gabarit_discipline(NAME clutch SOURCES … USES … [RULES file]): a room that has a discipline,
# `gabarit::clutch::discipline()` (core/discipline/discipline.h). RULES: its table of limits, data/rules/NAME.json unless
# it is said. core/disciplines and core/store gather them all.
function(gabarit_discipline)
  cmake_parse_arguments(ROOM "" "NAME;RULES" "SOURCES;USES;PRIVATE_LIBS;PUBLIC_LIBS" ${ARGN})
  gabarit_room(NAME ${ROOM_NAME} SOURCES ${ROOM_SOURCES} USES ${ROOM_USES} PRIVATE_LIBS ${ROOM_PRIVATE_LIBS} PUBLIC_LIBS ${ROOM_PUBLIC_LIBS})
  set_property(GLOBAL APPEND PROPERTY gabarit_disciplines ${ROOM_NAME})
  if(NOT ROOM_RULES)
    get_filename_component(ROOM_RULES "${CMAKE_CURRENT_SOURCE_DIR}/../../data/rules/${ROOM_NAME}.json" ABSOLUTE)
  endif()
  if(EXISTS "${ROOM_RULES}")
    set_property(GLOBAL APPEND PROPERTY gabarit_rules "${ROOM_RULES}")
  endif()
endfunction()

# gabarit_gather(template out ITEM DECLARATION name …): makes a source out of a template, @declarations@ and @list@ being
# DECLARATION and ITEM for each name, in which the name stands for @NAME@.
function(gabarit_gather template out item declaration)
  set(declarations "")
  set(list "")
  foreach(name IN LISTS ARGN)
    string(REPLACE "@NAME@" "${name}" one "${declaration}")
    string(APPEND declarations "${one}\n")
    string(REPLACE "@NAME@" "${name}" one "${item}")
    string(APPEND list "${one}, ")
  endforeach()
  configure_file("${template}" "${out}" @ONLY)
endfunction()

# gabarit_rule_tables(out file …): makes a source that holds these tables of limits, in their order.
function(gabarit_rule_tables out)
  set(list "")
  foreach(file IN LISTS ARGN)
    set_property(DIRECTORY APPEND PROPERTY CMAKE_CONFIGURE_DEPENDS "${file}")
    file(READ "${file}" text)
    file(RELATIVE_PATH name "${CMAKE_SOURCE_DIR}" "${file}")
    string(APPEND list "{\"${name}\", R\"GABARIT(${text})GABARIT\"}, ")
  endforeach()
  configure_file("${CMAKE_SOURCE_DIR}/core/sections/rule_tables.cpp.in" "${out}" @ONLY)
endfunction()

# gabarit_grouped(target SIZE): compiles the target's sources in groups of SIZE, so that headers and what is instantiated
# from them are paid for once a group. Names in unnamed namespaces must differ within a group.
function(gabarit_grouped target size)
  if(GABARIT_GROUPED)
    set_target_properties(${target} PROPERTIES UNITY_BUILD ON UNITY_BUILD_BATCH_SIZE ${size})
  endif()
endfunction()

# gabarit_plain(target): for what shows and prints and computes nothing: compiled in two thirds of the time.
function(gabarit_plain target)
  target_compile_options(${target} PRIVATE $<$<CONFIG:Release>:-O1>)
endfunction()

function(gabarit_tidy target)
  if(GABARIT_TIDY)
    set_target_properties(${target} PROPERTIES CXX_CLANG_TIDY "${GABARIT_CLANG_TIDY};--quiet")
  endif()
endfunction()

# gabarit_embed(target VARIABLE file …): compiles data files into the target as
# `extern const char* const gabarit::embedded::<variable>`, so that a program finds them wherever it runs.
function(gabarit_embed target)
  set(list ${ARGN})
  while(list)
    list(POP_FRONT list variable file)
    set_property(DIRECTORY APPEND PROPERTY CMAKE_CONFIGURE_DEPENDS "${file}")
    file(READ "${file}" text)
    set(out "${CMAKE_CURRENT_BINARY_DIR}/embedded_${variable}.cpp")
    file(CONFIGURE OUTPUT "${out}" CONTENT
      "namespace gabarit::embedded { extern const char* const @variable@; const char* const @variable@ = R\"GABARIT(@text@)GABARIT\"; }\n" @ONLY)
    target_sources(${target} PRIVATE "${out}")
  endwhile()
endfunction()
