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
    set_target_properties(${target} PROPERTIES AUTOMOC ON)
    gabarit_grouped(${target} 12)
    gabarit_plain(${target})
  else()
    gabarit_grouped(${target} 6)
  endif()
  gabarit_tidy(${target})
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

# gabarit_discipline(NAME fit SOURCES … USES …): a room that has a discipline: `gabarit::fit::discipline()`
# (core/discipline/discipline.h). core/disciplines gathers them all.
function(gabarit_discipline)
  gabarit_room(${ARGN})
  cmake_parse_arguments(ROOM "" "NAME" "" ${ARGN})
  set_property(GLOBAL APPEND PROPERTY gabarit_disciplines ${ROOM_NAME})
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
