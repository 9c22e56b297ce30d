<?xml version="1.0" encoding="utf-8"?>
<!DOCTYPE TS>
<TS version="2.1" language="en" sourcelanguage="en">
<context>
    <name>kiln</name>
    <message numerus="yes">
        <source> and %n other(s)</source>
        <translation>
            <numerusform> and %n other</numerusform>
            <numerusform> and %n others</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>%n face(s)</source>
        <translation>
            <numerusform>%n face</numerusform>
            <numerusform>%n faces</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>%n material(s) taken in.</source>
        <translation>
            <numerusform>%n material taken in.</numerusform>
            <numerusform>%n materials taken in.</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>%n point(s) of %1, mean %2</source>
        <translation>
            <numerusform>%n point of %1, mean %2</numerusform>
            <numerusform>%n points of %1, mean %2</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>%n parameter(s) taken from the clipboard.</source>
        <translation>
            <numerusform>%n parameter taken from the clipboard.</numerusform>
            <numerusform>%n parameters taken from the clipboard.</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>%n point(s) read. Use the name in a field that may vary in place.</source>
        <translation>
            <numerusform>%n point read. Use the name in a field that may vary in place.</numerusform>
            <numerusform>%n points read. Use the name in a field that may vary in place.</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>%n point(s) so far</source>
        <translation>
            <numerusform>%n point so far</numerusform>
            <numerusform>%n points so far</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>%n point(s).</source>
        <translation>
            <numerusform>%n point.</numerusform>
            <numerusform>%n points.</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>%n use(s)</source>
        <translation>
            <numerusform>%n use</numerusform>
            <numerusform>%n uses</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>Add the %n picked face(s)</source>
        <translation>
            <numerusform>Add the %n picked face</numerusform>
            <numerusform>Add the %n picked faces</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>Remove %n rows</source>
        <translation>
            <numerusform>Remove %n row</numerusform>
            <numerusform>Remove %n rows</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>Without the %n picked face(s)</source>
        <translation>
            <numerusform>Without the %n picked face</numerusform>
            <numerusform>Without the %n picked faces</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>and %n more</source>
        <translation>
            <numerusform>and %n more</numerusform>
            <numerusform>and %n more</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>minus %n by hand</source>
        <translation>
            <numerusform>minus %n by hand</numerusform>
            <numerusform>minus %n by hand</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>plus %n by hand</source>
        <translation>
            <numerusform>plus %n by hand</numerusform>
            <numerusform>plus %n by hand</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>table, %n point(s)</source>
        <translation>
            <numerusform>table, %n point</numerusform>
            <numerusform>table, %n points</numerusform>
        </translation>
    </message>
</context>
</TS>
