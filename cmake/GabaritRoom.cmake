# gabarit_room(NAME fit SOURCES gap.cpp … USES shape proximity [PRIVATE_LIBS …] [PUBLIC_LIBS …])
#
# A room is a folder of core/, a namespace and a target of one name. Its headers are seen as
# "<room>/<header>.h", through a link that only the targets which use the room have on their
# include path: including a room that is not named under USES does not build.
function(gabarit_room)
  cmake_parse_arguments(ROOM "" "NAME" "SOURCES;USES;PRIVATE_LIBS;PUBLIC_LIBS" ${ARGN})
  set(target "gabarit_${ROOM_NAME}")
  set(door "${CMAKE_BINARY_DIR}/rooms/${ROOM_NAME}")
  file(MAKE_DIRECTORY "${door}")
  file(CREATE_LINK "${CMAKE_CURRENT_SOURCE_DIR}" "${door}/${ROOM_NAME}" SYMBOLIC)

  add_library(${target} STATIC ${ROOM_SOURCES})
  target_include_directories(${target} PUBLIC "${door}")
  foreach(used IN LISTS ROOM_USES)
    target_link_libraries(${target} PUBLIC gabarit_${used})
  endforeach()
  target_link_libraries(${target} PUBLIC ${ROOM_PUBLIC_LIBS} PRIVATE gabarit_settings ${ROOM_PRIVATE_LIBS})
  gabarit_grouped(${target} 6)
  gabarit_tidy(${target})
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

# gabarit_grouped_by_folder(target): the same, a folder a group.
function(gabarit_grouped_by_folder target)
  if(GABARIT_GROUPED)
    get_target_property(sources ${target} SOURCES)
    foreach(source IN LISTS sources)
      get_filename_component(folder "${source}" DIRECTORY)
      string(MAKE_C_IDENTIFIER "${folder}" group)
      set_property(SOURCE "${source}" PROPERTY UNITY_GROUP "${group}")
    endforeach()
    set_target_properties(${target} PROPERTIES UNITY_BUILD ON UNITY_BUILD_MODE GROUP)
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
