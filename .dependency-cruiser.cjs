/** Which folder may import which; docs/architecture.md draws it. */
const only = (name, from, allowed) => ({
  name,
  severity: 'error',
  from: { path: from, pathNot: '\\.test\\.tsx?$' },
  to: { path: '^src/', pathNot: allowed },
})

module.exports = {
  forbidden: [
    { name: 'no circles', severity: 'error', from: {}, to: { circular: true } },
    only('core imports core only', '^src/core/', ['^src/core/']),
    {
      name: 'core reaches nothing outside but pure modules',
      severity: 'error',
      from: { path: '^src/core/', pathNot: '\\.test\\.ts$' },
      to: {
        dependencyTypes: ['npm', 'npm-dev', 'core'],
        pathNot:
          'node_modules/(zod|candied|clipper2-ts|jsep|rbush|papaparse|svgpath|opentype\\.js|pdf-lib|@pdf-lib/fontkit|fast-xml-parser|domhandler|css-select|css-tree|@tarikjabiri/dxf|d3[^/]*)/',
      },
    },
    only('geometry knows nothing of rigs', '^src/core/geometry/', ['^src/core/(geometry/|units-of-measure)']),
    only('aspects know parts and signals, not rigs', '^src/core/aspects/', [
      '^src/core/(aspects|catalogue|signal)/',
      '^src/core/units-of-measure',
    ]),
    only('elements of screens know signals, not rigs', '^src/core/elements/', [
      '^src/core/(elements|aspects|catalogue|geometry|signal)/',
      '^src/core/units-of-measure',
    ]),
    only('a rig knows nothing of harness, layout and engine', '^src/core/rig/', [
      '^src/core/(rig|aspects|catalogue|connections|elements|geometry|signal)/',
      '^src/core/(units-of-measure|plain-json)',
    ]),
    only('connections know nothing of rigs', '^src/core/connections/', [
      '^src/core/(connections|datagrams|device-line|bus)/',
      '^src/core/controllers/(simulated-models|capabilities)',
    ]),
    only('what goes over wires knows nothing of rigs', '^src/core/(datagrams|device-line|bus)/', [
      '^src/core/(datagrams|device-line|bus|signal)/',
      '^src/core/rig/(simulator-catalogue|numbered)',
      '^src/core/(crc16|units-of-measure)',
    ]),
    only('links import core', '^src/links/', ['^src/(core|links)/']),
    only('store imports core', '^src/store/', ['^src/(core|store)/']),
    only('hub imports core, links and store', '^src/hub/', ['^src/(core|links|store|hub|process)/']),
    only('stand-ins import core and links', '^src/standins/', ['^src/(core|links|standins|process)/']),
    only('drawings of screens import core', '^src/screen/', ['^src/(core|screen)/']),
    only('ui imports core and drawings of screens', '^src/ui/', ['^src/(core|ui|screen)/']),
    only('routes import core, store and ui', '^src/app/', ['^src/(core|store|ui|app)/']),
    only('the web process imports core and store', '^src/web/', ['^src/(core|store|web|process)/']),
    only('commands import core and checks', '^src/command/', ['^src/(core|check|command)/']),
    only('checks import core and links', '^src/check/', ['^src/(core|links|check)/']),
    only('the supervisor imports core and store', '^src/supervise/', [
      '^src/(core|store|supervise|process)/',
    ]),
  ],
  options: {
    tsConfig: { fileName: 'tsconfig.json' },
    tsPreCompilationDeps: true,
    doNotFollow: { path: 'node_modules' },
    enhancedResolveOptions: {
      exportsFields: ['exports'],
      conditionNames: ['import', 'require', 'node', 'default', 'types'],
    },
  },
}
