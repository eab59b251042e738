# bevelsmith_domain(<name> [USES <domain>...] [PUBLIC <lib>...] [PRIVATE <lib>...])
# One library for one folder of src/: every .cpp in it, linked to the domains before it.
function(bevelsmith_domain name)
  cmake_parse_arguments(arg "" "" "USES;PUBLIC;PRIVATE" ${ARGN})
  file(GLOB sources CONFIGURE_DEPENDS ${CMAKE_CURRENT_SOURCE_DIR}/${name}/*.cpp)
  file(GLOB headers CONFIGURE_DEPENDS ${CMAKE_CURRENT_SOURCE_DIR}/${name}/*.h)
  add_library(bevelsmith_${name} STATIC ${sources} ${headers})
  add_library(bevelsmith::${name} ALIAS bevelsmith_${name})
  list(TRANSFORM arg_USES PREPEND bevelsmith::)
  target_link_libraries(bevelsmith_${name}
    PUBLIC bevelsmith_options ${arg_USES} ${arg_PUBLIC} PRIVATE ${arg_PRIVATE})
endfunction()
