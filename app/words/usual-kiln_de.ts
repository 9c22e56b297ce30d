<?xml version="1.0" encoding="utf-8"?>
<!DOCTYPE TS>
<TS version="2.1" language="de" sourcelanguage="en">
<context>
    <name>kiln</name>
    <message>
        <source>
selected with the shown one</source>
        <translation>
mit dem gezeigten gewählt</translation>
    </message>
    <message>
        <source>
worst margin %1</source>
        <translation>
knappste Reserve %1</translation>
    </message>
    <message>
        <source> (Esc goes back)</source>
        <translation> (Esc geht zurück)</translation>
    </message>
    <message>
        <source> (no end rule was met)</source>
        <translation> (keine Endregel wurde erfüllt)</translation>
    </message>
    <message>
        <source> (table of %1)</source>
        <translation> (Tabelle mit %1)</translation>
    </message>
    <message>
        <source> (this case)</source>
        <translation> (dieser Fall)</translation>
    </message>
    <message>
        <source> Cut the hole out of the parts, too: else it conducts as the washer.</source>
        <translation> Schneiden Sie auch das Loch aus den Teilen: sonst leitet es wie die Scheibe.</translation>
    </message>
    <message numerus="yes">
        <source> and %n other(s)</source>
        <translation>
            <numerusform> und %n weitere</numerusform>
            <numerusform> und %n weitere</numerusform>
        </translation>
    </message>
    <message>
        <source> as set</source>
        <translation> wie gesetzt</translation>
    </message>
    <message>
        <source> at a point</source>
        <translation> an einem Punkt</translation>
    </message>
    <message>
        <source> from </source>
        <translation> von </translation>
    </message>
    <message>
        <source> in </source>
        <translation> in </translation>
    </message>
    <message>
        <source> of </source>
        <translation> von </translation>
    </message>
    <message>
        <source> on </source>
        <translation> an </translation>
    </message>
    <message>
        <source> per metre of depth</source>
        <translation> je Meter Tiefe</translation>
    </message>
    <message>
        <source> to </source>
        <translation> zu </translation>
    </message>
    <message>
        <source> to a body at </source>
        <translation> zu einem Körper bei </translation>
    </message>
    <message>
        <source> x, y, z</source>
        <translation> x, y, z</translation>
    </message>
    <message>
        <source> · %1 is out of date</source>
        <translation> · %1 ist veraltet</translation>
    </message>
    <message>
        <source> · Pr %1 · Nu %2 · %3</source>
        <translation> · Pr %1 · Nu %2 · %3</translation>
    </message>
    <message>
        <source> · a later run was interrupted at %1</source>
        <translation> · ein späterer Lauf wurde bei %1 unterbrochen</translation>
    </message>
    <message>
        <source> · axis dashed</source>
        <translation> · Achse gestrichelt</translation>
    </message>
    <message>
        <source> · changed by a rule at %1</source>
        <translation> · durch eine Regel geändert bei %1</translation>
    </message>
    <message>
        <source> · grey: only here</source>
        <translation> · grau: nur hier</translation>
    </message>
    <message>
        <source> · interpolated, known to %1</source>
        <translation> · interpoliert, auf %1 bekannt</translation>
    </message>
    <message>
        <source> · mean %1</source>
        <translation> · Mittel %1</translation>
    </message>
    <message>
        <source> · no parts yet</source>
        <translation> · noch keine Teile</translation>
    </message>
    <message>
        <source> · not here: %1</source>
        <translation> · nicht hier: %1</translation>
    </message>
    <message>
        <source> · not meshed yet</source>
        <translation> · noch nicht vernetzt</translation>
    </message>
    <message>
        <source> · not solved yet</source>
        <translation> · noch nicht gelöst</translation>
    </message>
    <message>
        <source> · not stored, at its mean: %1</source>
        <translation> · nicht gespeichert, bei seinem Mittel: %1</translation>
    </message>
    <message>
        <source> · out of date: %1</source>
        <translation> · veraltet: %1</translation>
    </message>
    <message>
        <source> · plane section</source>
        <translation> · ebener Schnitt</translation>
    </message>
    <message>
        <source> · quick look</source>
        <translation> · schneller Blick</translation>
    </message>
    <message>
        <source> · turned section, axis on the left</source>
        <translation> · gedrehter Schnitt, Achse links</translation>
    </message>
    <message>
        <source> · up to %1 beyond what is possible</source>
        <translation> · bis %1 über dem, was möglich ist</translation>
    </message>
    <message>
        <source>%</source>
        <translation>%</translation>
    </message>
    <message>
        <source>%1 %</source>
        <translation>%1 %</translation>
    </message>
    <message>
        <source>%1 % · %2</source>
        <translation>%1 % · %2</translation>
    </message>
    <message>
        <source>%1 %2</source>
        <translation>%1 %2</translation>
    </message>
    <message>
        <source>%1 (%2 values, %3 cases)</source>
        <translation>%1 (%2 Werte, %3 Fälle)</translation>
    </message>
    <message>
        <source>%1 (cut away)</source>
        <translation>%1 (weggeschnitten)</translation>
    </message>
    <message>
        <source>%1 (inside)</source>
        <translation>%1 (innen)</translation>
    </message>
    <message>
        <source>%1 (this case)</source>
        <translation>%1 (dieser Fall)</translation>
    </message>
    <message>
        <source>%1 Newton steps, %2 iterations</source>
        <translation>%1 Newton-Schritte, %2 Iterationen</translation>
    </message>
    <message>
        <source>%1 after %2</source>
        <translation>%1 nach %2</translation>
    </message>
    <message>
        <source>%1 against time</source>
        <translation>%1 über der Zeit</translation>
    </message>
    <message>
        <source>%1 along the line</source>
        <translation>%1 entlang der Linie</translation>
    </message>
    <message>
        <source>%1 as the rest again</source>
        <translation>%1 wieder wie der Rest</translation>
    </message>
    <message>
        <source>%1 automatic</source>
        <translation>%1 selbsttätig</translation>
    </message>
    <message>
        <source>%1 chosen</source>
        <translation>%1 gewählt</translation>
    </message>
    <message>
        <source>%1 could not be written. Choose another folder, or free some room.</source>
        <translation>%1 konnte nicht geschrieben werden. Wählen Sie einen anderen Ordner, oder schaffen Sie Platz.</translation>
    </message>
    <message>
        <source>%1 elements of first order, about %2 of memory</source>
        <translation>%1 Elemente erster Ordnung, etwa %2 Speicher</translation>
    </message>
    <message>
        <source>%1 face(s) of %2</source>
        <translation>%1 von %2 Flächen</translation>
    </message>
    <message>
        <source>%1 heats %2 with %3</source>
        <translation>%1 wärmt %2 mit %3</translation>
    </message>
    <message>
        <source>%1 in %2</source>
        <translation>%1 in %2</translation>
    </message>
    <message>
        <source>%1 in all.</source>
        <translation>%1 insgesamt.</translation>
    </message>
    <message>
        <source>%1 is %2</source>
        <translation>%1 ist %2</translation>
    </message>
    <message>
        <source>%1 is not solved.</source>
        <translation>%1 ist nicht gelöst.</translation>
    </message>
    <message>
        <source>%1 is out of date: %2.</source>
        <translation>%1 ist veraltet: %2.</translation>
    </message>
    <message>
        <source>%1 is solved</source>
        <translation>%1 ist gelöst</translation>
    </message>
    <message>
        <source>%1 itself, at another instant</source>
        <translation>%1 selbst, zu einem anderen Zeitpunkt</translation>
    </message>
    <message>
        <source>%1 keeps the space</source>
        <translation>%1 behält den Raum</translation>
    </message>
    <message>
        <source>%1 no longer</source>
        <translation>%1 nicht mehr</translation>
    </message>
    <message>
        <source>%1 of %2</source>
        <translation>%1 von %2</translation>
    </message>
    <message>
        <source>%1 of the report</source>
        <translation>%1 des Berichts</translation>
    </message>
    <message>
        <source>%1 on %2</source>
        <translation>%1 auf %2</translation>
    </message>
    <message>
        <source>%1 on or off</source>
        <translation>%1 an oder aus</translation>
    </message>
    <message>
        <source>%1 other parts</source>
        <translation>%1 andere Teile</translation>
    </message>
    <message>
        <source>%1 patches</source>
        <translation>%1 Flecken</translation>
    </message>
    <message>
        <source>%1 patches, %2 rays from each; %3 % of the view met none of them, both directions of a pair differed by %4 %, and %5 % was moved to make the view factors consistent. With patches twice as large the net heat of a part would change by %6 at most.</source>
        <translation>%1 Flecken, je %2 Strahlen; %3 % der Sicht trafen keinen von ihnen, die beiden Richtungen eines Paars wichen um %4 % voneinander ab, und %5 % wurden verschoben, damit die Sichtfaktoren zueinander passen. Mit doppelt so großen Flecken änderte sich die Nettowärme eines Teils um höchstens %6.</translation>
    </message>
    <message>
        <source>%1 rounds, %2 elements: the last round moved no hot spot by more than %3.</source>
        <translation>%1 Runden, %2 Elemente: die letzte Runde bewegte keine heißeste Stelle um mehr als %3.</translation>
    </message>
    <message>
        <source>%1 stands there twice.</source>
        <translation>%1 steht dort zweimal.</translation>
    </message>
    <message>
        <source>%1 switched off</source>
        <translation>%1 ausgeschaltet</translation>
    </message>
    <message>
        <source>%1 switched on</source>
        <translation>%1 eingeschaltet</translation>
    </message>
    <message>
        <source>%1 to %2: in %3, out %4, stored %5</source>
        <translation>%1 bis %2: hinein %3, hinaus %4, gespeichert %5</translation>
    </message>
    <message>
        <source>%1 unknown temperatures</source>
        <translation>%1 unbekannte Temperaturen</translation>
    </message>
    <message>
        <source>%1 was measured at other times</source>
        <translation>%1 wurde zu anderen Zeiten gemessen</translation>
    </message>
    <message>
        <source>%1 was not solved</source>
        <translation>%1 wurde nicht gelöst</translation>
    </message>
    <message>
        <source>%1 · %2: temperature along the line, %3</source>
        <translation>%1 · %2: Temperatur entlang der Linie, %3</translation>
    </message>
    <message>
        <source>%1 × %2: click, or type “40 x 20”</source>
        <translation>%1 × %2: klicken, oder „40 x 20“ eingeben</translation>
    </message>
    <message>
        <source>%1 – %2</source>
        <translation>%1 – %2</translation>
    </message>
    <message>
        <source>%1 − measured %2: %3 rms, largest %4 at %5</source>
        <translation>%1 − gemessen %2: quadratisches Mittel %3, größter %4 bei %5</translation>
    </message>
    <message>
        <source>%1, %2 ms</source>
        <translation>%1, %2 ms</translation>
    </message>
    <message>
        <source>%1, %2 repeated</source>
        <translation>%1, %2 wiederholt</translation>
    </message>
    <message>
        <source>%1, %2: %3</source>
        <translation>%1, %2: %3</translation>
    </message>
    <message>
        <source>%1, finer mesh</source>
        <translation>%1, feineres Netz</translation>
    </message>
    <message>
        <source>%1, goes on</source>
        <translation>%1, geht weiter</translation>
    </message>
    <message>
        <source>%1, how sure</source>
        <translation>%1, wie sicher</translation>
    </message>
    <message>
        <source>%1, of case %2</source>
        <translation>%1, von Fall %2</translation>
    </message>
    <message>
        <source>%1, over %2; it ended: %3</source>
        <translation>%1, über %2; Ende: %3</translation>
    </message>
    <message>
        <source>%1, where %2</source>
        <translation>%1, wo %2</translation>
    </message>
    <message>
        <source>%1, which does not exist</source>
        <translation>%1, das es nicht gibt</translation>
    </message>
    <message>
        <source>%1: %2 ●</source>
        <translation>%1: %2 ●</translation>
    </message>
    <message>
        <source>%1: %2; %3</source>
        <translation>%1: %2; %3</translation>
    </message>
    <message>
        <source>%1: It could not be written. Check that the folder exists and the disk has space.</source>
        <translation>%1: Es konnte nicht geschrieben werden. Prüfen Sie, ob der Ordner da ist und die Platte Platz hat.</translation>
    </message>
    <message>
        <source>%1: click, or type how far; below zero inwards</source>
        <translation>%1: klicken, oder eingeben, wie weit; unter null nach innen</translation>
    </message>
    <message>
        <source>%1: for one per cent of each value, one kelvin of a temperature</source>
        <translation>%1: für ein Prozent jedes Werts, ein Kelvin einer Temperatur</translation>
    </message>
    <message>
        <source>%1: from where heat enters to where it leaves, W</source>
        <translation>%1: von wo Wärme hineingeht bis wo sie hinausgeht, W</translation>
    </message>
    <message>
        <source>%1: watches in %2, powers and heat below, over time</source>
        <translation>%1: Messwerte in %2, darunter Leistungen und Wärme, über der Zeit</translation>
    </message>
    <message>
        <source>%1; upwards %2</source>
        <translation>%1; nach oben %2</translation>
    </message>
    <message>
        <source>%1…</source>
        <translation>%1…</translation>
    </message>
    <message numerus="yes">
        <source>%n face(s)</source>
        <translation>
            <numerusform>%n Fläche</numerusform>
            <numerusform>%n Flächen</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>%n material(s) taken in.</source>
        <translation>
            <numerusform>%n Werkstoff hereingeholt.</numerusform>
            <numerusform>%n Werkstoffe hereingeholt.</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>%n parameter(s) taken from the clipboard.</source>
        <translation>
            <numerusform>%n Parameter aus der Zwischenablage übernommen.</numerusform>
            <numerusform>%n Parameter aus der Zwischenablage übernommen.</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>%n point(s) of %1, mean %2</source>
        <translation>
            <numerusform>%n Punkt von %1, Mittel %2</numerusform>
            <numerusform>%n Punkte von %1, Mittel %2</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>%n point(s) read. Use the name in a field that may vary in place.</source>
        <translation>
            <numerusform>%n Punkt gelesen. Benutzen Sie den Namen in einem Feld, das am Ort veränderlich sein darf.</numerusform>
            <numerusform>%n Punkte gelesen. Benutzen Sie den Namen in einem Feld, das am Ort veränderlich sein darf.</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>%n point(s) so far</source>
        <translation>
            <numerusform>%n Punkt bisher</numerusform>
            <numerusform>%n Punkte bisher</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>%n point(s).</source>
        <translation>
            <numerusform>%n Punkt.</numerusform>
            <numerusform>%n Punkte.</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>%n use(s)</source>
        <translation>
            <numerusform>%n Verwendung</numerusform>
            <numerusform>%n Verwendungen</numerusform>
        </translation>
    </message>
    <message>
        <source>&amp;About Usual Kiln</source>
        <translation>&amp;Über Usual Kiln</translation>
    </message>
    <message>
        <source>&amp;Back</source>
        <translation>&amp;Hinten</translation>
    </message>
    <message>
        <source>&amp;Cancel</source>
        <translation>Abbre&amp;chen</translation>
    </message>
    <message>
        <source>&amp;Close the window</source>
        <translation>Das Fenster s&amp;chließen</translation>
    </message>
    <message>
        <source>&amp;Copy rows</source>
        <translation>Zeilen &amp;kopieren</translation>
    </message>
    <message>
        <source>&amp;Delete</source>
        <translation>&amp;Löschen</translation>
    </message>
    <message>
        <source>&amp;Difference to the compared case</source>
        <translation>&amp;Unterschied zum verglichenen Fall</translation>
    </message>
    <message>
        <source>&amp;Duplicate</source>
        <translation>&amp;Verdoppeln</translation>
    </message>
    <message>
        <source>&amp;Edit</source>
        <translation>&amp;Bearbeiten</translation>
    </message>
    <message>
        <source>&amp;End the run now and keep it</source>
        <translation>Den Lauf jetzt b&amp;eenden und behalten</translation>
    </message>
    <message>
        <source>&amp;File</source>
        <translation>&amp;Datei</translation>
    </message>
    <message>
        <source>&amp;Find a command</source>
        <translation>Einen &amp;Befehl finden</translation>
    </message>
    <message>
        <source>&amp;Find cases</source>
        <translation>Fälle su&amp;chen</translation>
    </message>
    <message>
        <source>&amp;Fit</source>
        <translation>&amp;Einpassen</translation>
    </message>
    <message>
        <source>&amp;Front</source>
        <translation>&amp;Vorn</translation>
    </message>
    <message>
        <source>&amp;Go on from where the run stopped</source>
        <translation>&amp;Weiterrechnen, wo der Lauf anhielt</translation>
    </message>
    <message>
        <source>&amp;Help</source>
        <translation>&amp;Hilfe</translation>
    </message>
    <message>
        <source>&amp;Hide the selected part</source>
        <translation>Das gewählte Teil ver&amp;bergen</translation>
    </message>
    <message>
        <source>&amp;How sure? Solve on three meshes</source>
        <translation>&amp;Wie sicher? Auf drei Netzen lösen</translation>
    </message>
    <message>
        <source>&amp;Isolate the selected part</source>
        <translation>Nur das gewählte &amp;Teil zeigen</translation>
    </message>
    <message>
        <source>&amp;Keys</source>
        <translation>&amp;Tasten</translation>
    </message>
    <message>
        <source>&amp;Ledger</source>
        <translation>Bi&amp;lanz</translation>
    </message>
    <message>
        <source>&amp;Left</source>
        <translation>&amp;Links</translation>
    </message>
    <message>
        <source>&amp;Look</source>
        <translation>Aussehe&amp;n</translation>
    </message>
    <message>
        <source>&amp;Manual</source>
        <translation>&amp;Handbuch</translation>
    </message>
    <message>
        <source>&amp;Materials</source>
        <translation>&amp;Werkstoffe</translation>
    </message>
    <message>
        <source>&amp;Mesh</source>
        <translation>&amp;Netz</translation>
    </message>
    <message>
        <source>&amp;Mesh without solving</source>
        <translation>&amp;Vernetzen, ohne zu lösen</translation>
    </message>
    <message>
        <source>&amp;New</source>
        <translation>&amp;Neu</translation>
    </message>
    <message>
        <source>&amp;Open…</source>
        <translation>Ö&amp;ffnen…</translation>
    </message>
    <message>
        <source>&amp;Parameters</source>
        <translation>&amp;Parameter</translation>
    </message>
    <message>
        <source>&amp;Paste rows</source>
        <translation>Zeilen &amp;einfügen</translation>
    </message>
    <message>
        <source>&amp;Push a face</source>
        <translation>Eine Fläche &amp;schieben</translation>
    </message>
    <message>
        <source>&amp;Quantity units</source>
        <translation>Einheiten der &amp;Größen</translation>
    </message>
    <message>
        <source>&amp;Quit</source>
        <translation>&amp;Beenden</translation>
    </message>
    <message>
        <source>&amp;Read geometry again</source>
        <translation>Geometrie &amp;wieder lesen</translation>
    </message>
    <message>
        <source>&amp;Readiness</source>
        <translation>&amp;Bereitschaft</translation>
    </message>
    <message>
        <source>&amp;Redo</source>
        <translation>&amp;Wiederholen</translation>
    </message>
    <message>
        <source>&amp;Refine the mesh where it matters…</source>
        <translation>Das Netz ver&amp;feinern, wo es darauf ankommt…</translation>
    </message>
    <message>
        <source>&amp;Right</source>
        <translation>&amp;Rechts</translation>
    </message>
    <message>
        <source>&amp;Save</source>
        <translation>&amp;Speichern</translation>
    </message>
    <message>
        <source>&amp;Scene</source>
        <translation>&amp;Szene</translation>
    </message>
    <message>
        <source>&amp;Solve</source>
        <translation>&amp;Lösen</translation>
    </message>
    <message>
        <source>&amp;Streamlines from the hottest place</source>
        <translation>&amp;Stromlinien vom heißesten Ort</translation>
    </message>
    <message>
        <source>&amp;Top</source>
        <translation>&amp;Oben</translation>
    </message>
    <message>
        <source>&amp;Undo</source>
        <translation>&amp;Rückgängig</translation>
    </message>
    <message>
        <source>&amp;View</source>
        <translation>&amp;Ansicht</translation>
    </message>
    <message>
        <source>&amp;Views of the project</source>
        <translation>Ansichten des Pro&amp;jekts</translation>
    </message>
    <message>
        <source>&amp;Watch what is selected</source>
        <translation>Das Gewählte be&amp;obachten</translation>
    </message>
    <message>
        <source>&amp;Write the shapes…</source>
        <translation>Die F&amp;ormen schreiben…</translation>
    </message>
    <message>
        <source>+ Watch the volume above</source>
        <translation>+ Das Volumen darüber beobachten</translation>
    </message>
    <message>
        <source>, %1 between their means</source>
        <translation>, %1 zwischen ihren Mitteln</translation>
    </message>
    <message>
        <source>, %1 to solve</source>
        <translation>, %1 zum Lösen</translation>
    </message>
    <message>
        <source>, about %1 from where it goes</source>
        <translation>, etwa %1 von dort, wohin es geht</translation>
    </message>
    <message>
        <source>, at %1</source>
        <translation>, bei %1</translation>
    </message>
    <message>
        <source>, at the end of the run</source>
        <translation>, am Ende des Laufs</translation>
    </message>
    <message>
        <source>, held at </source>
        <translation>, gehalten auf </translation>
    </message>
    <message>
        <source>, still falling</source>
        <translation>, fällt noch</translation>
    </message>
    <message>
        <source>, still rising</source>
        <translation>, steigt noch</translation>
    </message>
    <message>
        <source>, worst margin %1</source>
        <translation>, knappste Reserve %1</translation>
    </message>
    <message>
        <source>, ⌀ </source>
        <translation>, ⌀ </translation>
    </message>
    <message>
        <source>. At the end of the run.</source>
        <translation>. Am Ende des Laufs.</translation>
    </message>
    <message>
        <source>0 temperature, 1 material, 2 conductivity, 3 condition</source>
        <translation>0 Temperatur, 1 Werkstoff, 2 Wärmeleitfähigkeit, 3 Bedingung</translation>
    </message>
    <message>
        <source>1 % of the change</source>
        <translation>1 % der Änderung</translation>
    </message>
    <message>
        <source>10 min, 1 h</source>
        <translation>10 min, 1 h</translation>
    </message>
    <message>
        <source>63 % of the change after %1</source>
        <translation>63 % der Änderung nach %1</translation>
    </message>
    <message>
        <source>63.2 % after</source>
        <translation>63,2 % nach</translation>
    </message>
    <message>
        <source>95 % after</source>
        <translation>95 % nach</translation>
    </message>
    <message>
        <source>: %1 is not solved</source>
        <translation>: %1 ist nicht gelöst</translation>
    </message>
    <message>
        <source>: not meshed yet</source>
        <translation>: noch nicht vernetzt</translation>
    </message>
    <message>
        <source>: not solved yet</source>
        <translation>: noch nicht gelöst</translation>
    </message>
    <message>
        <source>: out of date (%1)</source>
        <translation>: veraltet (%1)</translation>
    </message>
    <message>
        <source>: smallest angle of each tetrahedron</source>
        <translation>: kleinster Winkel jedes Tetraeders</translation>
    </message>
    <message>
        <source>; now %1</source>
        <translation>; jetzt %1</translation>
    </message>
    <message>
        <source>&lt;b&gt;Picture&lt;/b&gt;</source>
        <translation>&lt;b&gt;Bild&lt;/b&gt;</translation>
    </message>
    <message>
        <source>&lt;b&gt;h = %1&lt;/b&gt; with the surface at %2 (fluid at %3)</source>
        <translation>&lt;b&gt;h = %1&lt;/b&gt; mit der Oberfläche bei %2 (Fluid bei %3)</translation>
    </message>
    <message>
        <source>&lt;h3&gt;Usual Kiln %1&lt;/h3&gt;&lt;p&gt;Steady and transient temperature fields in solid parts.&lt;/p&gt;&lt;p&gt;Free software under the GNU Affero General Public License, version 3 or later: use it, read it, change it and pass it on. It comes without any warranty.&lt;/p&gt;&lt;p&gt;Built with Qt %2 (running %3), VTK %4, %5. Icons: Breeze, under the GNU Lesser General Public License.&lt;/p&gt;</source>
        <translation>&lt;h3&gt;Usual Kiln %1&lt;/h3&gt;&lt;p&gt;Stationäre und instationäre Temperaturfelder in festen Teilen.&lt;/p&gt;&lt;p&gt;Freie Software unter der GNU Affero General Public License, Version 3 oder später: benutzen, lesen, ändern und weitergeben Sie sie. Sie kommt ohne jede Gewähr.&lt;/p&gt;&lt;p&gt;Gebaut mit Qt %2 (läuft mit %3), VTK %4, %5. Symbole: Breeze, unter der GNU Lesser General Public License.&lt;/p&gt;</translation>
    </message>
    <message>
        <source>A &amp;circle, raised or sunk</source>
        <translation>Ein &amp;Kreis, erhoben oder versenkt</translation>
    </message>
    <message>
        <source>A &amp;rectangle, raised or sunk</source>
        <translation>Ein &amp;Rechteck, erhoben oder versenkt</translation>
    </message>
    <message>
        <source>A &amp;tour in two minutes</source>
        <translation>Ein &amp;Rundgang in zwei Minuten</translation>
    </message>
    <message>
        <source>A case of another project…</source>
        <translation>Ein Fall eines anderen Projekts…</translation>
    </message>
    <message>
        <source>A circle that d&amp;ivides the face</source>
        <translation>Ein Kreis, der die Fläche te&amp;ilt</translation>
    </message>
    <message>
        <source>A circle that divides the face</source>
        <translation>Ein Kreis, der die Fläche teilt</translation>
    </message>
    <message>
        <source>A circle, raised or sunk</source>
        <translation>Ein Kreis, erhoben oder versenkt</translation>
    </message>
    <message>
        <source>A colour for each body</source>
        <translation>Eine Farbe je Körper</translation>
    </message>
    <message>
        <source>A colour for each face</source>
        <translation>Eine Farbe je Fläche</translation>
    </message>
    <message>
        <source>A figure over two values</source>
        <translation>Ein Kennwert über zwei Werten</translation>
    </message>
    <message>
        <source>A flat mesh: its regions become flat parts of a section model.</source>
        <translation>Ein ebenes Netz: seine Gebiete werden ebene Teile eines Schnittmodells.</translation>
    </message>
    <message>
        <source>A log with units in its first line</source>
        <translation>Eine Aufzeichnung mit Einheiten in der ersten Zeile</translation>
    </message>
    <message>
        <source>A material that stands for the air between two surfaces, from the size of the cavity</source>
        <translation>Ein Werkstoff, der für die Luft zwischen zwei Oberflächen steht, aus der Größe des Spalts</translation>
    </message>
    <message>
        <source>A name cannot be empty. The old one is kept.</source>
        <translation>Ein Name kann nicht leer sein. Der alte bleibt.</translation>
    </message>
    <message>
        <source>A new report</source>
        <translation>Ein neuer Bericht</translation>
    </message>
    <message>
        <source>A rectangle that &amp;divides the face</source>
        <translation>Ein Rechteck, das die Fläche &amp;teilt</translation>
    </message>
    <message>
        <source>A rectangle that divides the face</source>
        <translation>Ein Rechteck, das die Fläche teilt</translation>
    </message>
    <message>
        <source>A rectangle, raised or sunk</source>
        <translation>Ein Rechteck, erhoben oder versenkt</translation>
    </message>
    <message>
        <source>A report tells of cases and questions, as a page, PDF or text. Add one with +.</source>
        <translation>Ein Bericht erzählt von Fällen und Fragen, als Seite, PDF oder Text. Fügen Sie mit + einen hinzu.</translation>
    </message>
    <message>
        <source>A section model is drawn by its parts' outlines</source>
        <translation>Ein Schnittmodell wird durch die Umrisse seiner Teile gezeichnet</translation>
    </message>
    <message>
        <source>A surface is a set of faces given by a rule; a finish is what it looks like to radiation. Choose one on the left.</source>
        <translation>Eine Oberfläche ist eine Menge von Flächen nach einer Regel; ihre Art ist, wie sie für Strahlung aussieht. Wählen Sie links eine.</translation>
    </message>
    <message>
        <source>A table against temperature</source>
        <translation>Eine Tabelle über der Temperatur</translation>
    </message>
    <message>
        <source>A thin layer that is not meshed: it conducts along the part beneath it and stores heat</source>
        <translation>Eine dünne Schicht, die nicht vernetzt wird: sie leitet entlang des Teils unter ihr und speichert Wärme</translation>
    </message>
    <message>
        <source>A tour in two minutes</source>
        <translation>Ein Rundgang in zwei Minuten</translation>
    </message>
    <message>
        <source>A unit of the file is 1</source>
        <translation>Eine Einheit der Datei ist 1</translation>
    </message>
    <message>
        <source>A value measured at places: x, y, z and the value, each with its unit in the first line</source>
        <translation>Ein an Orten gemessener Wert: x, y, z und der Wert, jeder mit seiner Einheit in der ersten Zeile</translation>
    </message>
    <message>
        <source>About</source>
        <translation>Etwa</translation>
    </message>
    <message>
        <source>About %1 tetrahedra by these sizes</source>
        <translation>Etwa %1 Tetraeder nach diesen Größen</translation>
    </message>
    <message>
        <source>About %1 triangles by these sizes</source>
        <translation>Etwa %1 Dreiecke nach diesen Größen</translation>
    </message>
    <message>
        <source>About Usual Kiln</source>
        <translation>Über Usual Kiln</translation>
    </message>
    <message>
        <source>About so many, at round values</source>
        <translation>Etwa so viele, bei runden Werten</translation>
    </message>
    <message>
        <source>Accuracy</source>
        <translation>Genauigkeit</translation>
    </message>
    <message>
        <source>Accuracy and storing</source>
        <translation>Genauigkeit und Speichern</translation>
    </message>
    <message>
        <source>Add %1</source>
        <translation>%1 hinzufügen</translation>
    </message>
    <message>
        <source>Add a &amp;boundary</source>
        <translation>Eine Ra&amp;ndbedingung hinzufügen</translation>
    </message>
    <message>
        <source>Add a &amp;case</source>
        <translation>Einen F&amp;all hinzufügen</translation>
    </message>
    <message>
        <source>Add a &amp;part</source>
        <translation>Ein &amp;Teil hinzufügen</translation>
    </message>
    <message>
        <source>Add a boundary</source>
        <translation>Eine Randbedingung hinzufügen</translation>
    </message>
    <message>
        <source>Add a case</source>
        <translation>Einen Fall hinzufügen</translation>
    </message>
    <message>
        <source>Add a finish</source>
        <translation>Eine Oberflächenart hinzufügen</translation>
    </message>
    <message>
        <source>Add a heat &amp;source</source>
        <translation>Eine Wärme&amp;quelle hinzufügen</translation>
    </message>
    <message>
        <source>Add a heat source</source>
        <translation>Eine Wärmequelle hinzufügen</translation>
    </message>
    <message>
        <source>Add a line</source>
        <translation>Eine Linie hinzufügen</translation>
    </message>
    <message>
        <source>Add a ma&amp;terial</source>
        <translation>Einen Werksto&amp;ff hinzufügen</translation>
    </message>
    <message>
        <source>Add a material</source>
        <translation>Einen Werkstoff hinzufügen</translation>
    </message>
    <message>
        <source>Add a p&amp;arameter</source>
        <translation>Einen &amp;Parameter hinzufügen</translation>
    </message>
    <message>
        <source>Add a parameter</source>
        <translation>Einen Parameter hinzufügen</translation>
    </message>
    <message>
        <source>Add a part</source>
        <translation>Ein Teil hinzufügen</translation>
    </message>
    <message>
        <source>Add a part: %1</source>
        <translation>Ein Teil hinzufügen: %1</translation>
    </message>
    <message>
        <source>Add a point</source>
        <translation>Einen Punkt hinzufügen</translation>
    </message>
    <message>
        <source>Add a report</source>
        <translation>Einen Bericht hinzufügen</translation>
    </message>
    <message>
        <source>Add a row</source>
        <translation>Eine Zeile hinzufügen</translation>
    </message>
    <message>
        <source>Add a rule</source>
        <translation>Eine Regel hinzufügen</translation>
    </message>
    <message>
        <source>Add a rule: when a watch passes a value…</source>
        <translation>Regel hinzufügen: wenn ein Messwert einen Wert erreicht…</translation>
    </message>
    <message>
        <source>Add a slider</source>
        <translation>Einen Regler hinzufügen</translation>
    </message>
    <message>
        <source>Add a step</source>
        <translation>Einen Schritt hinzufügen</translation>
    </message>
    <message>
        <source>Add a step ▾</source>
        <translation>Schritt hinzufügen ▾</translation>
    </message>
    <message>
        <source>Add a stretch</source>
        <translation>Ein Stück hinzufügen</translation>
    </message>
    <message>
        <source>Add a surface</source>
        <translation>Eine Oberfläche hinzufügen</translation>
    </message>
    <message>
        <source>Add a value to the set</source>
        <translation>Dem Satz einen Wert hinzufügen</translation>
    </message>
    <message>
        <source>Add an e&amp;nclosure</source>
        <translation>Einen &amp;Hohlraum hinzufügen</translation>
    </message>
    <message>
        <source>Add an edge</source>
        <translation>Eine Kante hinzufügen</translation>
    </message>
    <message>
        <source>Add an enclosure</source>
        <translation>Einen Hohlraum hinzufügen</translation>
    </message>
    <message>
        <source>Add an end rule</source>
        <translation>Eine Endregel hinzufügen</translation>
    </message>
    <message>
        <source>Add an end rule ▾</source>
        <translation>Endregel hinzufügen ▾</translation>
    </message>
    <message>
        <source>Add an outline point</source>
        <translation>Einen Umrisspunkt hinzufügen</translation>
    </message>
    <message numerus="yes">
        <source>Add the %n picked face(s)</source>
        <translation>
            <numerusform>Die %n gewählte Fläche hinzufügen</numerusform>
            <numerusform>Die %n gewählten Flächen hinzufügen</numerusform>
        </translation>
    </message>
    <message>
        <source>Add to this band</source>
        <translation>Zu diesem Band hinzufügen</translation>
    </message>
    <message>
        <source>Adds a set that was kept</source>
        <translation>Fügt einen Satz hinzu, der behalten wurde</translation>
    </message>
    <message>
        <source>After %1.</source>
        <translation>Nach %1.</translation>
    </message>
    <message>
        <source>Air pressure</source>
        <translation>Luftdruck</translation>
    </message>
    <message>
        <source>Align the high edges</source>
        <translation>Obere Kanten ausrichten</translation>
    </message>
    <message>
        <source>Align the low edges</source>
        <translation>Untere Kanten ausrichten</translation>
    </message>
    <message>
        <source>All values</source>
        <translation>Alle Werte</translation>
    </message>
    <message>
        <source>Along %1, %2</source>
        <translation>Entlang %1, %2</translation>
    </message>
    <message>
        <source>Along a line</source>
        <translation>Entlang einer Linie</translation>
    </message>
    <message>
        <source>Along an edge clicked in the scene</source>
        <translation>Entlang einer in der Szene geklickten Kante</translation>
    </message>
    <message>
        <source>Along material axes</source>
        <translation>Entlang der Werkstoffachsen</translation>
    </message>
    <message>
        <source>Also open elsewhere, by %1: what is saved there will be asked about here.</source>
        <translation>Auch anderswo offen, bei %1: was dort gespeichert wird, danach wird hier gefragt.</translation>
    </message>
    <message>
        <source>An &amp;outline, raised or sunk</source>
        <translation>Ein &amp;Umriss, erhoben oder versenkt</translation>
    </message>
    <message>
        <source>An instant of its run, such as “2 h”; empty: its end, and in the scene the instant shown</source>
        <translation>Ein Zeitpunkt seines Laufs, etwa „2 h“; leer: sein Ende, und in der Szene der gezeigte Zeitpunkt</translation>
    </message>
    <message>
        <source>An outline needs at least three points; choose one in the table.</source>
        <translation>Ein Umriss braucht mindestens drei Punkte; wählen Sie einen in der Tabelle.</translation>
    </message>
    <message>
        <source>An outline that di&amp;vides the face</source>
        <translation>Ein Umriss, der &amp;die Fläche teilt</translation>
    </message>
    <message>
        <source>An outline that divides the face</source>
        <translation>Ein Umriss, der die Fläche teilt</translation>
    </message>
    <message>
        <source>An outline, raised or sunk</source>
        <translation>Ein Umriss, erhoben oder versenkt</translation>
    </message>
    <message>
        <source>Angle up to which triangles make one face</source>
        <translation>Winkel, bis zu dem Dreiecke eine Fläche bilden</translation>
    </message>
    <message>
        <source>Another name for the chosen set</source>
        <translation>Ein anderer Name für den gewählten Satz</translation>
    </message>
    <message>
        <source>Another plane, across %1</source>
        <translation>Eine weitere Ebene, quer zu %1</translation>
    </message>
    <message>
        <source>Another section</source>
        <translation>Noch ein Abschnitt</translation>
    </message>
    <message>
        <source>Another section of own words</source>
        <translation>Noch ein Abschnitt mit eigenem Text</translation>
    </message>
    <message>
        <source>Any direction</source>
        <translation>Jede Richtung</translation>
    </message>
    <message>
        <source>Any field takes a formula of these names, for example 2*wall + 5 mm. A unit follows its number: 12 W/(m²·K). Known: %1.</source>
        <translation>Jedes Feld nimmt eine Formel aus diesen Namen, zum Beispiel 2*wall + 5 mm. Eine Einheit folgt ihrer Zahl: 12 W/(m²·K). Bekannt: %1.</translation>
    </message>
    <message>
        <source>Anywhere</source>
        <translation>Überall</translation>
    </message>
    <message>
        <source>Apply here</source>
        <translation>Hier anwenden</translation>
    </message>
    <message>
        <source>Arc height after it</source>
        <translation>Bogenhöhe danach</translation>
    </message>
    <message>
        <source>Area</source>
        <translation>Flächeninhalt</translation>
    </message>
    <message>
        <source>Arrows of one length</source>
        <translation>Pfeile gleicher Länge</translation>
    </message>
    <message>
        <source>Arrows on the selected part that move it</source>
        <translation>Pfeile am gewählten Teil, die es bewegen</translation>
    </message>
    <message>
        <source>Arrows that &amp;move the selected part</source>
        <translation>Pfeile, die das gewählte Teil &amp;bewegen</translation>
    </message>
    <message>
        <source>As %1 over %2</source>
        <translation>Als %1 über %2</translation>
    </message>
    <message>
        <source>As a heat flux</source>
        <translation>Als Wärmestromdichte</translation>
    </message>
    <message>
        <source>As a page for browsers (HTML), as PDF, or as OpenDocument text to go on writing</source>
        <translation>Als Seite für Browser (HTML), als PDF, oder als OpenDocument-Text zum Weiterschreiben</translation>
    </message>
    <message>
        <source>As a total power</source>
        <translation>Als Gesamtleistung</translation>
    </message>
    <message>
        <source>As the system</source>
        <translation>Wie das System</translation>
    </message>
    <message>
        <source>Ask</source>
        <translation>Fragen</translation>
    </message>
    <message>
        <source>Ask &amp;before large models…</source>
        <translation>Vor &amp;großen Modellen fragen…</translation>
    </message>
    <message>
        <source>Ask before a mesh has more &amp;elements than</source>
        <translation>Fragen, bevor ein Netz mehr &amp;Elemente hat als</translation>
    </message>
    <message>
        <source>Ask before large models</source>
        <translation>Vor großen Modellen fragen</translation>
    </message>
    <message>
        <source>Asked once a project: which way does gravity pull, and what is the air pressure?</source>
        <translation>Einmal je Projekt gefragt: wohin zieht die Schwerkraft, und welchen Druck hat die Luft?</translation>
    </message>
    <message>
        <source>At 20 °C %1 cross it: it conducts like %2. The material is a table against temperature.</source>
        <translation>Bei 20 °C gehen %1 hindurch: er leitet wie %2. Der Werkstoff ist eine Tabelle über der Temperatur.</translation>
    </message>
    <message>
        <source>At any distance</source>
        <translation>In jedem Abstand</translation>
    </message>
    <message>
        <source>Axis along which they are pulled apart</source>
        <translation>Achse, entlang der sie auseinandergezogen sind</translation>
    </message>
    <message>
        <source>Axis along z, at x</source>
        <translation>Achse entlang z, bei x</translation>
    </message>
    <message>
        <source>B&amp;ottom</source>
        <translation>&amp;Unten</translation>
    </message>
    <message>
        <source>Back</source>
        <translation>Hinten</translation>
    </message>
    <message>
        <source>Background</source>
        <translation>Hintergrund</translation>
    </message>
    <message>
        <source>Band around the last value that counts as settled</source>
        <translation>Band um den letzten Wert, das als eingeschwungen zählt</translation>
    </message>
    <message>
        <source>Begin with a solid, or with geometry from a file. Then give it a material, say where heat enters and where it leaves, and solve (F5).</source>
        <translation>Beginnen Sie mit einem Körper oder mit Geometrie aus einer Datei. Geben Sie ihm dann einen Werkstoff, sagen Sie, wo Wärme hinein- und hinausgeht, und lösen Sie (F5).</translation>
    </message>
    <message>
        <source>Between its points</source>
        <translation>Zwischen ihren Punkten</translation>
    </message>
    <message>
        <source>Between two places clicked in the scene</source>
        <translation>Zwischen zwei in der Szene geklickten Orten</translation>
    </message>
    <message>
        <source>Bevel edges</source>
        <translation>Kanten fasen</translation>
    </message>
    <message>
        <source>Bodies of the file</source>
        <translation>Körper der Datei</translation>
    </message>
    <message>
        <source>Body</source>
        <translation>Körper</translation>
    </message>
    <message>
        <source>Body of %1</source>
        <translation>Körper von %1</translation>
    </message>
    <message>
        <source>Bolted joint</source>
        <translation>Schraubverbindung</translation>
    </message>
    <message>
        <source>Bolted joint…</source>
        <translation>Schraubverbindung…</translation>
    </message>
    <message>
        <source>Both look from the same place; off: each by itself</source>
        <translation>Beide blicken vom selben Ort; aus: jede für sich</translation>
    </message>
    <message>
        <source>Bottom</source>
        <translation>Unten</translation>
    </message>
    <message>
        <source>Bring back</source>
        <translation>Zurückholen</translation>
    </message>
    <message>
        <source>Bring up to date</source>
        <translation>Auf den Stand bringen</translation>
    </message>
    <message>
        <source>Build parts, give them materials, say where heat enters and leaves, and solve.</source>
        <translation>Bauen Sie Teile, geben Sie ihnen Werkstoffe, sagen Sie, wo Wärme hinein- und hinausgeht, und lösen Sie.</translation>
    </message>
    <message>
        <source>By</source>
        <translation>Von</translation>
    </message>
    <message>
        <source>By the heat flux</source>
        <translation>Nach der Wärmestromdichte</translation>
    </message>
    <message>
        <source>C&amp;lose the cuts</source>
        <translation>Die Sch&amp;nitte schließen</translation>
    </message>
    <message>
        <source>C&amp;olours show</source>
        <translation>Die &amp;Farben zeigen</translation>
    </message>
    <message>
        <source>COLOURS</source>
        <translation>FARBEN</translation>
    </message>
    <message>
        <source>CONTACTS</source>
        <translation>KONTAKTE</translation>
    </message>
    <message>
        <source>CUTS</source>
        <translation>SCHNITTE</translation>
    </message>
    <message>
        <source>Call it as typed below</source>
        <translation>So nennen, wie unten eingegeben</translation>
    </message>
    <message>
        <source>Cancel</source>
        <translation>Abbrechen</translation>
    </message>
    <message>
        <source>Cancel: ends the chosen one, or takes it out</source>
        <translation>Abbrechen: beendet den gewählten, oder nimmt ihn heraus</translation>
    </message>
    <message>
        <source>Case</source>
        <translation>Fall</translation>
    </message>
    <message>
        <source>Case %1</source>
        <translation>Fall %1</translation>
    </message>
    <message>
        <source>Case %1, %2, %3, margin %4</source>
        <translation>Fall %1, %2, %3, Reserve %4</translation>
    </message>
    <message>
        <source>Case to compare with</source>
        <translation>Fall zum Vergleichen</translation>
    </message>
    <message>
        <source>Cases and questions that the report tells of</source>
        <translation>Fälle und Fragen, von denen der Bericht erzählt</translation>
    </message>
    <message>
        <source>Cases are handed to a workload manager; what it has goes on when the window is closed</source>
        <translation>Fälle werden einer Auftragsverwaltung gegeben; was sie hat, läuft weiter, wenn das Fenster geschlossen wird</translation>
    </message>
    <message>
        <source>Cases further left (or the wheel)</source>
        <translation>Fälle weiter links (oder das Rad)</translation>
    </message>
    <message>
        <source>Cases further right (or the wheel)</source>
        <translation>Fälle weiter rechts (oder das Rad)</translation>
    </message>
    <message>
        <source>Cases of a group</source>
        <translation>Fälle einer Gruppe</translation>
    </message>
    <message>
        <source>Cases solved at a time, as far as memory allows</source>
        <translation>Fälle, die gleichzeitig gelöst werden, soweit der Speicher reicht</translation>
    </message>
    <message>
        <source>Cases that take it do without</source>
        <translation>Fälle, die ihn nehmen, kommen ohne ihn aus</translation>
    </message>
    <message>
        <source>Cases: one chip a run. Click to show one; Solve runs it (F5). Readiness says what is missing.</source>
        <translation>Fälle: eine Marke je Lauf. Ein Klick zeigt einen; Lösen rechnet ihn (F5). Die Bereitschaft sagt, was fehlt.</translation>
    </message>
    <message>
        <source>Caught</source>
        <translation>Aufgefangen</translation>
    </message>
    <message>
        <source>Centre on it</source>
        <translation>Darauf zentrieren</translation>
    </message>
    <message>
        <source>Changed on the disk</source>
        <translation>Auf der Platte geändert</translation>
    </message>
    <message>
        <source>Changed: %1. What was set on the faces that are left stays.</source>
        <translation>Geändert: %1. Was auf den verbliebenen Flächen gesetzt war, bleibt.</translation>
    </message>
    <message>
        <source>Changes figures only: nothing is solved anew.</source>
        <translation>Ändert nur Kennwerte: nichts wird neu gelöst.</translation>
    </message>
    <message>
        <source>Changes how far and how exactly a run goes.</source>
        <translation>Ändert, wie weit und wie genau ein Lauf geht.</translation>
    </message>
    <message>
        <source>Changes no result.</source>
        <translation>Ändert kein Ergebnis.</translation>
    </message>
    <message>
        <source>Changes of “%1” were not saved when the program ended. Bring them back?</source>
        <translation>Änderungen an „%1“ waren nicht gespeichert, als das Programm endete. Zurückholen?</translation>
    </message>
    <message>
        <source>Changes the mesh: it is solved anew.</source>
        <translation>Ändert das Netz: es wird neu gelöst.</translation>
    </message>
    <message>
        <source>Changes the shape: it is meshed and solved anew.</source>
        <translation>Ändert die Form: Netz und Lösung werden neu gemacht.</translation>
    </message>
    <message>
        <source>Changes the solution.</source>
        <translation>Ändert die Lösung.</translation>
    </message>
    <message>
        <source>Changes what happens in time, not the steady state.</source>
        <translation>Ändert, was in der Zeit geschieht, nicht den stationären Zustand.</translation>
    </message>
    <message>
        <source>Changes what sees what: view factors are counted and it is solved anew.</source>
        <translation>Ändert, was was sieht: Sichtfaktoren werden neu gezählt, und es wird neu gelöst.</translation>
    </message>
    <message>
        <source>Changes whatever uses it.</source>
        <translation>Ändert, was es benutzt.</translation>
    </message>
    <message>
        <source>Chapters</source>
        <translation>Kapitel</translation>
    </message>
    <message>
        <source>Chart of the answer</source>
        <translation>Diagramm der Antwort</translation>
    </message>
    <message>
        <source>Choose a PNG, JPEG or SVG picture of moderate size.</source>
        <translation>Wählen Sie ein PNG-, JPEG- oder SVG-Bild mäßiger Größe.</translation>
    </message>
    <message>
        <source>Choose a case to see what its solver said.</source>
        <translation>Wählen Sie einen Fall, um zu sehen, was sein Löser sagte.</translation>
    </message>
    <message>
        <source>Choose a logo…</source>
        <translation>Ein Logo wählen…</translation>
    </message>
    <message>
        <source>Choose a material on the left. Those of the library are taken into the project when a part is made of them.</source>
        <translation>Wählen Sie links einen Werkstoff. Die der Bibliothek kommen ins Projekt, wenn ein Teil daraus gemacht wird.</translation>
    </message>
    <message>
        <source>Choose…</source>
        <translation>Wählen…</translation>
    </message>
    <message>
        <source>Circle</source>
        <translation>Kreis</translation>
    </message>
    <message>
        <source>Clear %1</source>
        <translation>%1 leeren</translation>
    </message>
    <message>
        <source>Clear limit</source>
        <translation>Grenze löschen</translation>
    </message>
    <message>
        <source>Clear what is over; what waits and runs stays</source>
        <translation>Wegräumen, was vorbei ist; was wartet und läuft, bleibt</translation>
    </message>
    <message>
        <source>Click a corner on a flat face</source>
        <translation>Klicken Sie eine Ecke auf einer ebenen Fläche an</translation>
    </message>
    <message>
        <source>Click a flat face of another part in the scene first.</source>
        <translation>Klicken Sie zuerst in der Szene eine ebene Fläche eines anderen Teils an.</translation>
    </message>
    <message>
        <source>Click corners; Enter closes the outline</source>
        <translation>Klicken Sie Ecken an; Eingabe schließt den Umriss</translation>
    </message>
    <message>
        <source>Click how far the circle reaches, or type its diameter</source>
        <translation>Klicken Sie, wie weit der Kreis reicht, oder geben Sie seinen Durchmesser ein</translation>
    </message>
    <message>
        <source>Click near an edge that is an arc (Esc gives up)</source>
        <translation>Klicken Sie nahe einer Kante, die ein Bogen ist (Esc lässt es sein)</translation>
    </message>
    <message>
        <source>Click near the edge, on one of its faces (Esc gives up)</source>
        <translation>Klicken Sie nahe der Kante, auf eine ihrer Flächen (Esc lässt es sein)</translation>
    </message>
    <message>
        <source>Click the centre on a flat face</source>
        <translation>Klicken Sie den Mittelpunkt auf einer ebenen Fläche an</translation>
    </message>
    <message>
        <source>Click the first corner on a flat face</source>
        <translation>Klicken Sie die erste Ecke auf einer ebenen Fläche an</translation>
    </message>
    <message>
        <source>Click the flat face to push</source>
        <translation>Klicken Sie die ebene Fläche an, die geschoben wird</translation>
    </message>
    <message>
        <source>Click the opposite corner, or type “40 x 20”</source>
        <translation>Klicken Sie die Ecke gegenüber, oder geben Sie „40 x 20“ ein</translation>
    </message>
    <message>
        <source>Click the place to watch (Esc gives up)</source>
        <translation>Klicken Sie den Ort an, der beobachtet wird (Esc lässt es sein)</translation>
    </message>
    <message>
        <source>Click to go there</source>
        <translation>Klicken, um dorthin zu gehen</translation>
    </message>
    <message>
        <source>Click where the label goes (Esc gives up)</source>
        <translation>Klicken Sie, wohin die Beschriftung soll (Esc lässt es sein)</translation>
    </message>
    <message>
        <source>Click where the line begins (Esc gives up)</source>
        <translation>Klicken Sie, wo die Linie beginnt (Esc lässt es sein)</translation>
    </message>
    <message>
        <source>Click where the line ends (Esc gives up)</source>
        <translation>Klicken Sie, wo die Linie endet (Esc lässt es sein)</translation>
    </message>
    <message>
        <source>Close</source>
        <translation>Schließen</translation>
    </message>
    <message>
        <source>Close (Ctrl+L)</source>
        <translation>Schließen (Strg+L)</translation>
    </message>
    <message>
        <source>Closed</source>
        <translation>Geschlossen</translation>
    </message>
    <message>
        <source>Cluster</source>
        <translation>Cluster</translation>
    </message>
    <message>
        <source>Coefficient as a number</source>
        <translation>Koeffizient als Zahl</translation>
    </message>
    <message>
        <source>Coefficient from a correlation</source>
        <translation>Koeffizient aus einer Korrelation</translation>
    </message>
    <message>
        <source>Coldest, %1</source>
        <translation>Kälteste, %1</translation>
    </message>
    <message>
        <source>Colour</source>
        <translation>Farbe</translation>
    </message>
    <message>
        <source>Colour by</source>
        <translation>Farbe nach</translation>
    </message>
    <message>
        <source>Colour of %1</source>
        <translation>Farbe von %1</translation>
    </message>
    <message>
        <source>Colour of a part</source>
        <translation>Farbe eines Teils</translation>
    </message>
    <message>
        <source>Colour of the part where the scene is coloured by part</source>
        <translation>Farbe des Teils, wo die Szene nach Teilen gefärbt ist</translation>
    </message>
    <message>
        <source>Colours of the picture</source>
        <translation>Farben des Bildes</translation>
    </message>
    <message>
        <source>Comma-separated text (*.csv)</source>
        <translation>Komma-getrennter Text (*.csv)</translation>
    </message>
    <message>
        <source>Comma-separated text (*.csv);;JSON (*.json)</source>
        <translation>Komma-getrennter Text (*.csv);;JSON (*.json)</translation>
    </message>
    <message>
        <source>Comment</source>
        <translation>Bemerkung</translation>
    </message>
    <message>
        <source>Compare with another case</source>
        <translation>Mit einem anderen Fall vergleichen</translation>
    </message>
    <message>
        <source>Compare with another project</source>
        <translation>Mit einem anderen Projekt vergleichen</translation>
    </message>
    <message>
        <source>Conductance elsewhere</source>
        <translation>Leitwert anderswo</translation>
    </message>
    <message>
        <source>Conductivity from</source>
        <translation>Wärmeleitfähigkeit von</translation>
    </message>
    <message>
        <source>Conductivity to</source>
        <translation>Wärmeleitfähigkeit bis</translation>
    </message>
    <message>
        <source>Contact %1</source>
        <translation>Kontakt %1</translation>
    </message>
    <message>
        <source>Contact %1 | %2</source>
        <translation>Kontakt %1 | %2</translation>
    </message>
    <message>
        <source>Coordinate %1 of a label</source>
        <translation>Koordinate %1 einer Beschriftung</translation>
    </message>
    <message>
        <source>Copies of one body become one part</source>
        <translation>Kopien eines Körpers werden ein Teil</translation>
    </message>
    <message>
        <source>Copy</source>
        <translation>Kopieren</translation>
    </message>
    <message>
        <source>Copy as a transient case</source>
        <translation>Als instationären Fall kopieren</translation>
    </message>
    <message>
        <source>Copy both tables for a spreadsheet</source>
        <translation>Beide Tabellen für eine Tabellenkalkulation kopieren</translation>
    </message>
    <message>
        <source>Copy the chart as a picture</source>
        <translation>Das Diagramm als Bild kopieren</translation>
    </message>
    <message>
        <source>Copy the picture, as drawing and as pixels</source>
        <translation>Das Bild kopieren, als Zeichnung und als Pixel</translation>
    </message>
    <message>
        <source>Copy the selected cells, or the whole table</source>
        <translation>Die gewählten Zellen kopieren, oder die ganze Tabelle</translation>
    </message>
    <message>
        <source>Copy the values (Ctrl+C)</source>
        <translation>Die Werte kopieren (Strg+C)</translation>
    </message>
    <message>
        <source>Copy the whole matrix for a spreadsheet</source>
        <translation>Die ganze Matrix für eine Tabellenkalkulation kopieren</translation>
    </message>
    <message>
        <source>Counts in all %1 cases; a value marked “this case” in %2 alone.</source>
        <translation>Gilt in allen %1 Fällen; ein mit „dieser Fall“ bezeichneter Wert nur in %2.</translation>
    </message>
    <message>
        <source>Curve</source>
        <translation>Kurve</translation>
    </message>
    <message>
        <source>Cut a shape</source>
        <translation>Eine Form abziehen</translation>
    </message>
    <message>
        <source>Cut in x</source>
        <translation>In x geschnitten</translation>
    </message>
    <message>
        <source>Cut in y</source>
        <translation>In y geschnitten</translation>
    </message>
    <message>
        <source>Cut in z</source>
        <translation>In z geschnitten</translation>
    </message>
    <message>
        <source>Cut into a new project</source>
        <translation>In ein neues Projekt schneiden</translation>
    </message>
    <message>
        <source>Cut open in &amp;x</source>
        <translation>In &amp;x aufschneiden</translation>
    </message>
    <message>
        <source>Cut open in &amp;y</source>
        <translation>In &amp;y aufschneiden</translation>
    </message>
    <message>
        <source>Cut open in &amp;z</source>
        <translation>In &amp;z aufschneiden</translation>
    </message>
    <message>
        <source>Dark</source>
        <translation>Dunkel</translation>
    </message>
    <message>
        <source>Depth</source>
        <translation>Tiefe</translation>
    </message>
    <message>
        <source>Difference</source>
        <translation>Unterschied</translation>
    </message>
    <message>
        <source>Difference between them</source>
        <translation>Unterschied zwischen ihnen</translation>
    </message>
    <message>
        <source>Difference to the first pinned</source>
        <translation>Unterschied zum ersten angehefteten</translation>
    </message>
    <message>
        <source>Digits</source>
        <translation>Stellen</translation>
    </message>
    <message>
        <source>Distance, %1</source>
        <translation>Abstand, %1</translation>
    </message>
    <message>
        <source>Divide a face</source>
        <translation>Eine Fläche teilen</translation>
    </message>
    <message>
        <source>Divide all sizes by</source>
        <translation>Alle Größen teilen durch</translation>
    </message>
    <message>
        <source>Do it all the same</source>
        <translation>Trotzdem tun</translation>
    </message>
    <message>
        <source>Do not store</source>
        <translation>Nicht speichern</translation>
    </message>
    <message>
        <source>Do not store this</source>
        <translation>Dies nicht speichern</translation>
    </message>
    <message>
        <source>Done</source>
        <translation>Fertig</translation>
    </message>
    <message>
        <source>Dra&amp;w on a face</source>
        <translation>Auf einer Fläche &amp;zeichnen</translation>
    </message>
    <message>
        <source>Drag a rectangle to see more of it; a double click shows all again</source>
        <translation>Ziehen Sie ein Rechteck auf, um mehr davon zu sehen; ein Doppelklick zeigt wieder alles</translation>
    </message>
    <message>
        <source>Drag along an upright to leave the points in that range; a click on it takes the range away.</source>
        <translation>Ziehen Sie an einer Senkrechten, um die Punkte in diesem Bereich zu behalten; ein Klick darauf nimmt den Bereich weg.</translation>
    </message>
    <message>
        <source>Drag it, or use the arrow keys; a double click brings it to the middle</source>
        <translation>Ziehen Sie sie, oder nehmen Sie die Pfeiltasten; ein Doppelklick bringt sie in die Mitte</translation>
    </message>
    <message>
        <source>Drag to turn, wheel to enlarge</source>
        <translation>Ziehen dreht, das Rad vergrößert</translation>
    </message>
    <message>
        <source>Draw on a face: ribs, pockets, holes, dividing lines; push a face</source>
        <translation>Auf einer Fläche zeichnen: Rippen, Taschen, Löcher, teilende Linien; eine Fläche schieben</translation>
    </message>
    <message>
        <source>Drawing (*.svg);;Picture (*.png)</source>
        <translation>Zeichnung (*.svg);;Bild (*.png)</translation>
    </message>
    <message>
        <source>Duplicate</source>
        <translation>Verdoppeln</translation>
    </message>
    <message>
        <source>Duplicate a case</source>
        <translation>Einen Fall verdoppeln</translation>
    </message>
    <message>
        <source>Duplicate cases</source>
        <translation>Fälle verdoppeln</translation>
    </message>
    <message>
        <source>Duplicate them</source>
        <translation>Sie verdoppeln</translation>
    </message>
    <message>
        <source>Earlier</source>
        <translation>Früher</translation>
    </message>
    <message>
        <source>Edit the &amp;case…</source>
        <translation>Den Fall &amp;bearbeiten…</translation>
    </message>
    <message>
        <source>Edit the case…</source>
        <translation>Den Fall bearbeiten…</translation>
    </message>
    <message>
        <source>Edit these %1 cases together</source>
        <translation>Diese %1 Fälle zusammen bearbeiten</translation>
    </message>
    <message>
        <source>Edit this &amp;case only</source>
        <translation>Nur diesen &amp;Fall bearbeiten</translation>
    </message>
    <message>
        <source>Editing</source>
        <translation>Bearbeitet wird</translation>
    </message>
    <message>
        <source>Elements of %1</source>
        <translation>Elemente von %1</translation>
    </message>
    <message>
        <source>Elements of &amp;second order</source>
        <translation>Elemente &amp;zweiter Ordnung</translation>
    </message>
    <message>
        <source>Elements through walls</source>
        <translation>Elemente durch Wände</translation>
    </message>
    <message>
        <source>Emissivity</source>
        <translation>Emissionsgrad</translation>
    </message>
    <message>
        <source>Emissivity of one side</source>
        <translation>Emissionsgrad der einen Seite</translation>
    </message>
    <message>
        <source>Empty: what fits into half of this machine's memory, %1.
One of second order counts as three.</source>
        <translation>Leer: was in die Hälfte des Speichers dieses Rechners passt, %1.
Eines zweiter Ordnung zählt wie drei.</translation>
    </message>
    <message>
        <source>Enclosure</source>
        <translation>Hohlraum</translation>
    </message>
    <message>
        <source>End the run here and keep it (Ctrl+E)</source>
        <translation>Den Lauf hier beenden und behalten (Strg+E)</translation>
    </message>
    <message>
        <source>Ends </source>
        <translation>Endet </translation>
    </message>
    <message>
        <source>Ends when settled</source>
        <translation>Endet wenn eingeschwungen</translation>
    </message>
    <message>
        <source>Enter a force such as 5 kN and a radius larger than the hole; both parts need a material.</source>
        <translation>Geben Sie eine Kraft wie 5 kN und einen Radius größer als das Loch an; beide Teile brauchen einen Werkstoff.</translation>
    </message>
    <message>
        <source>Enter a value above zero, for example 1 K or 1 %.</source>
        <translation>Geben Sie einen Wert über null ein, zum Beispiel 1 K oder 1 %.</translation>
    </message>
    <message>
        <source>Enters through faces: %1 in all; most left over at an insulated face: %2</source>
        <translation>Kommt durch Flächen herein: %1 insgesamt; am meisten übrig an einer gedämmten Fläche: %2</translation>
    </message>
    <message>
        <source>Equal ratios take equal room; where all values are positive</source>
        <translation>Gleiche Verhältnisse nehmen gleichen Raum; wo alle Werte positiv sind</translation>
    </message>
    <message>
        <source>Every case is up to date.</source>
        <translation>Jeder Fall ist auf dem Stand.</translation>
    </message>
    <message>
        <source>Everything</source>
        <translation>Alles</translation>
    </message>
    <message>
        <source>Everything is turned about the axis; what lies to its right (+x) counts. Watts are those of the whole body.</source>
        <translation>Alles ist um die Achse gedreht; was rechts von ihr liegt (+x), zählt. Watt sind die des ganzen Körpers.</translation>
    </message>
    <message>
        <source>Exchange</source>
        <translation>Austausch</translation>
    </message>
    <message>
        <source>Face</source>
        <translation>Fläche</translation>
    </message>
    <message>
        <source>Faces</source>
        <translation>Flächen</translation>
    </message>
    <message>
        <source>Faces of a step</source>
        <translation>Flächen eines Schritts</translation>
    </message>
    <message>
        <source>Faces picked by hand</source>
        <translation>Von Hand gewählte Flächen</translation>
    </message>
    <message>
        <source>Fastest cooling</source>
        <translation>Schnellste Abkühlung</translation>
    </message>
    <message>
        <source>Fastest heating</source>
        <translation>Schnellste Erwärmung</translation>
    </message>
    <message>
        <source>Field that varies</source>
        <translation>Feld, das sich ändert</translation>
    </message>
    <message>
        <source>Fields whose formula uses this parameter follow it in transient cases.</source>
        <translation>Felder, deren Formel diesen Parameter benutzt, folgen ihm in instationären Fällen.</translation>
    </message>
    <message>
        <source>Filter the ledger</source>
        <translation>Die Bilanz filtern</translation>
    </message>
    <message>
        <source>Finish</source>
        <translation>Oberflächenart</translation>
    </message>
    <message>
        <source>Finish from the library ▾</source>
        <translation>Oberflächenart aus der Bibliothek ▾</translation>
    </message>
    <message>
        <source>Finish of a surface</source>
        <translation>Oberflächenart</translation>
    </message>
    <message>
        <source>Finishes</source>
        <translation>Oberflächenarten</translation>
    </message>
    <message>
        <source>Fit the colours to what is visible</source>
        <translation>Die Farben an das Sichtbare anpassen</translation>
    </message>
    <message>
        <source>Flat form</source>
        <translation>Ebene Form</translation>
    </message>
    <message>
        <source>Flattest tetrahedra</source>
        <translation>Flachste Tetraeder</translation>
    </message>
    <message>
        <source>Fluid</source>
        <translation>Fluid</translation>
    </message>
    <message>
        <source>Flux of each element by itself</source>
        <translation>Wärmestromdichte jedes Elements für sich</translation>
    </message>
    <message>
        <source>Fo&amp;rget the refinement</source>
        <translation>Die Verfeinerung ver&amp;gessen</translation>
    </message>
    <message>
        <source>Fold or unfold the strip</source>
        <translation>Den Streifen auf- oder zuklappen</translation>
    </message>
    <message>
        <source>Fold the strip to the names of its pages (Alt+T)</source>
        <translation>Den Streifen auf die Namen seiner Seiten zuklappen (Alt+T)</translation>
    </message>
    <message>
        <source>For arrows, streamlines and components; else it is recovered at the nodes</source>
        <translation>Für Pfeile, Stromlinien und Komponenten; sonst wird sie an den Knoten zurückgewonnen</translation>
    </message>
    <message>
        <source>For other projects: there its values are matched by name</source>
        <translation>Für andere Projekte: dort werden seine Werte nach Namen zugeordnet</translation>
    </message>
    <message>
        <source>Force of the bolt</source>
        <translation>Kraft der Schraube</translation>
    </message>
    <message>
        <source>Forget %1</source>
        <translation>%1 vergessen</translation>
    </message>
    <message>
        <source>Forget the refinement</source>
        <translation>Die Verfeinerung vergessen</translation>
    </message>
    <message>
        <source>Forget them</source>
        <translation>Vergessen</translation>
    </message>
    <message>
        <source>Formula</source>
        <translation>Formel</translation>
    </message>
    <message>
        <source>Formula of watches…</source>
        <translation>Formel aus Messwerten…</translation>
    </message>
    <message>
        <source>From a correlation ▾</source>
        <translation>Aus einer Korrelation ▾</translation>
    </message>
    <message>
        <source>From a log…</source>
        <translation>Aus einer Aufzeichnung…</translation>
    </message>
    <message>
        <source>From areas, volumes and sizes, before anything is meshed: within a factor of two</source>
        <translation>Aus Flächen, Volumen und Größen, bevor etwas vernetzt ist: auf einen Faktor zwei genau</translation>
    </message>
    <message>
        <source>From the &amp;corner</source>
        <translation>Von der E&amp;cke</translation>
    </message>
    <message>
        <source>From the force of a bolt to a conductance within its washer's reach, and another elsewhere</source>
        <translation>Von der Kraft einer Schraube zu einem Leitwert in der Reichweite ihrer Scheibe, und einem anderen anderswo</translation>
    </message>
    <message>
        <source>From the shown case</source>
        <translation>Vom gezeigten Fall</translation>
    </message>
    <message>
        <source>Front</source>
        <translation>Vorn</translation>
    </message>
    <message>
        <source>Geometry and meshes (%1)</source>
        <translation>Geometrie und Netze (%1)</translation>
    </message>
    <message>
        <source>Give cases of another</source>
        <translation>Fällen etwas von einem anderen geben</translation>
    </message>
    <message>
        <source>Give them of “%1”</source>
        <translation>Ihnen etwas von „%1“ geben</translation>
    </message>
    <message>
        <source>Give this case a value of its own</source>
        <translation>Diesem Fall einen eigenen Wert geben</translation>
    </message>
    <message>
        <source>Give to the selected part</source>
        <translation>Dem gewählten Teil geben</translation>
    </message>
    <message>
        <source>Gives</source>
        <translation>Ergibt</translation>
    </message>
    <message>
        <source>Go on from where the run stopped (Ctrl+F5)</source>
        <translation>Weiterrechnen, wo der Lauf anhielt (Strg+F5)</translation>
    </message>
    <message>
        <source>Go to the end (End)</source>
        <translation>Zum Ende (Ende)</translation>
    </message>
    <message>
        <source>Go to the start (Home)</source>
        <translation>Zum Anfang (Pos1)</translation>
    </message>
    <message>
        <source>Gravity along</source>
        <translation>Schwerkraft entlang</translation>
    </message>
    <message>
        <source>Gravity and air pressure</source>
        <translation>Schwerkraft und Luftdruck</translation>
    </message>
    <message>
        <source>Gravity pulls along</source>
        <translation>Die Schwerkraft zieht entlang</translation>
    </message>
    <message>
        <source>Group</source>
        <translation>Gruppe</translation>
    </message>
    <message>
        <source>Group %1: %2 cases%3. Click to %4; right click for all of it.</source>
        <translation>Gruppe %1: %2 Fälle%3. Klick: %4; rechte Taste für alles Weitere.</translation>
    </message>
    <message>
        <source>Group (empty: none)</source>
        <translation>Gruppe (leer: keine)</translation>
    </message>
    <message>
        <source>Group of cases</source>
        <translation>Gruppe von Fällen</translation>
    </message>
    <message>
        <source>Groups</source>
        <translation>Gruppen</translation>
    </message>
    <message>
        <source>Group…</source>
        <translation>Gruppe…</translation>
    </message>
    <message>
        <source>HEAT FLUX</source>
        <translation>WÄRMESTROMDICHTE</translation>
    </message>
    <message>
        <source>HEAT IN</source>
        <translation>WÄRME HINEIN</translation>
    </message>
    <message>
        <source>Handed in before: press Ask to wait for it.</source>
        <translation>Früher abgegeben: drücken Sie Fragen, um darauf zu warten.</translation>
    </message>
    <message>
        <source>Handed to the cluster before: %1. Solve them to take up what came out.</source>
        <translation>Früher an den Cluster gegeben: %1. Lösen Sie sie, um zu übernehmen, was herauskam.</translation>
    </message>
    <message>
        <source>Hardness of the softer</source>
        <translation>Härte des weicheren</translation>
    </message>
    <message>
        <source>Heat across</source>
        <translation>Wärme durch</translation>
    </message>
    <message>
        <source>Heat by the ledger</source>
        <translation>Wärme nach der Bilanz</translation>
    </message>
    <message>
        <source>Heat flows in the plane alone. Parts are what the plane cuts of them; flat forms lie in the x–z plane. “part.front” and “part.back” name the faces of a plate.</source>
        <translation>Wärme strömt nur in der Ebene. Teile sind, was die Ebene aus ihnen schneidet; ebene Formen liegen in der x–z-Ebene. „part.front“ und „part.back“ nennen die Flächen einer Platte.</translation>
    </message>
    <message>
        <source>Heat flux</source>
        <translation>Wärmestromdichte</translation>
    </message>
    <message>
        <source>Heat flux along it</source>
        <translation>Wärmestromdichte entlang</translation>
    </message>
    <message>
        <source>Heat flux along it, W/m²</source>
        <translation>Wärmestromdichte entlang, W/m²</translation>
    </message>
    <message>
        <source>Heat flux along x, y and z is along those of each part's material</source>
        <translation>Wärmestromdichte in x, y und z liegt entlang der Achsen des Werkstoffs jedes Teils</translation>
    </message>
    <message>
        <source>Heat into the model</source>
        <translation>Wärme ins Modell</translation>
    </message>
    <message>
        <source>Heat paths</source>
        <translation>Wärmewege</translation>
    </message>
    <message>
        <source>Heat through faces</source>
        <translation>Wärme durch Flächen</translation>
    </message>
    <message>
        <source>Heat, %1</source>
        <translation>Wärme, %1</translation>
    </message>
    <message>
        <source>Height</source>
        <translation>Höhe</translation>
    </message>
    <message>
        <source>Here is the model, once it has a part</source>
        <translation>Hier steht das Modell, sobald es ein Teil hat</translation>
    </message>
    <message>
        <source>Hide %1</source>
        <translation>%1 verbergen</translation>
    </message>
    <message>
        <source>Hottest, %1</source>
        <translation>Heißeste, %1</translation>
    </message>
    <message>
        <source>How clear parts are that one sees through (Ctrl+T on a selected part)</source>
        <translation>Wie klar Teile sind, durch die man hindurchsieht (Strg+T an einem gewählten Teil)</translation>
    </message>
    <message>
        <source>How far parts are pulled apart</source>
        <translation>Wie weit Teile auseinandergezogen sind</translation>
    </message>
    <message>
        <source>How long</source>
        <translation>Wie lange</translation>
    </message>
    <message>
        <source>How long and how hot</source>
        <translation>Wie lange und wie heiß</translation>
    </message>
    <message>
        <source>How many</source>
        <translation>Wie viele</translation>
    </message>
    <message>
        <source>How many lines of equal value</source>
        <translation>Wie viele Linien gleichen Werts</translation>
    </message>
    <message>
        <source>How many pictures, evenly in time?</source>
        <translation>Wie viele Bilder, gleichmäßig in der Zeit?</translation>
    </message>
    <message>
        <source>How strongly values act</source>
        <translation>Wie stark Werte wirken</translation>
    </message>
    <message>
        <source>How the report would look</source>
        <translation>Wie der Bericht aussähe</translation>
    </message>
    <message>
        <source>In</source>
        <translation>In</translation>
    </message>
    <message>
        <source>In this project</source>
        <translation>In diesem Projekt</translation>
    </message>
    <message>
        <source>Inch and pound: in, Btu/h, Btu/(h·ft²)</source>
        <translation>Zoll und Pfund: in, Btu/h, Btu/(h·ft²)</translation>
    </message>
    <message>
        <source>Instant of the case to compare with</source>
        <translation>Zeitpunkt des Falls zum Vergleichen</translation>
    </message>
    <message>
        <source>Instants to pin</source>
        <translation>Zeitpunkte zum Anheften</translation>
    </message>
    <message>
        <source>It</source>
        <translation>Er</translation>
    </message>
    <message>
        <source>It begins at</source>
        <translation>Es beginnt bei</translation>
    </message>
    <message>
        <source>It chooses its points as it goes.</source>
        <translation>Sie wählt ihre Punkte unterwegs.</translation>
    </message>
    <message>
        <source>It does not vary any more</source>
        <translation>Es ändert sich nicht mehr</translation>
    </message>
    <message>
        <source>It has %1 megapixels.</source>
        <translation>Es hat %1 Megapixel.</translation>
    </message>
    <message>
        <source>It is</source>
        <translation>Es ist</translation>
    </message>
    <message>
        <source>It is no picture that can be read.</source>
        <translation>Es ist kein Bild, das gelesen werden kann.</translation>
    </message>
    <message>
        <source>It is solid now.</source>
        <translation>Es ist jetzt fest.</translation>
    </message>
    <message>
        <source>It lies on no surface.</source>
        <translation>Sie liegt auf keiner Oberfläche.</translation>
    </message>
    <message>
        <source>It must be on for less than the whole cycle.</source>
        <translation>Es muss kürzer an sein als der ganze Zyklus.</translation>
    </message>
    <message>
        <source>It must come after what it starts from.</source>
        <translation>Er muss nach dem kommen, womit er beginnt.</translation>
    </message>
    <message>
        <source>It presses with %1: %2 within its reach, where the surfaces touch in spots; nothing else is counted between them. The face is divided there.</source>
        <translation>Sie presst mit %1: %2 in ihrer Reichweite, wo sich die Oberflächen an Stellen berühren; sonst zählt nichts zwischen ihnen. Die Fläche wird dort geteilt.</translation>
    </message>
    <message>
        <source>It was skipped: %1.</source>
        <translation>Er wurde übergangen: %1.</translation>
    </message>
    <message>
        <source>Its middle, %1</source>
        <translation>Ihre Mitte, %1</translation>
    </message>
    <message>
        <source>Its middle, x, y, z</source>
        <translation>Ihre Mitte, x, y, z</translation>
    </message>
    <message>
        <source>Its shape is not that of its file any more: it is meshed anew</source>
        <translation>Seine Form ist nicht mehr die seiner Datei: es wird neu vernetzt</translation>
    </message>
    <message>
        <source>Its value is taken when “%1” is solved.</source>
        <translation>Sein Wert wird genommen, wenn „%1“ gelöst ist.</translation>
    </message>
    <message>
        <source>Join a shape</source>
        <translation>Eine Form verbinden</translation>
    </message>
    <message>
        <source>Join the selected</source>
        <translation>Gewählte verbinden</translation>
    </message>
    <message>
        <source>Join what is alike</source>
        <translation>Gleiche verbinden</translation>
    </message>
    <message>
        <source>Joined by straight lines; beyond the first and last temperature the value is held (dashed).</source>
        <translation>Durch Geraden verbunden; jenseits der ersten und letzten Temperatur wird der Wert gehalten (gestrichelt).</translation>
    </message>
    <message>
        <source>K/W</source>
        <translation>K/W</translation>
    </message>
    <message>
        <source>Keep</source>
        <translation>Behalten</translation>
    </message>
    <message>
        <source>Keep as a case</source>
        <translation>Als Fall behalten</translation>
    </message>
    <message>
        <source>Keep camera, cuts, hidden parts and colours under this name</source>
        <translation>Kamera, Schnitte, verborgene Teile und Farben unter diesem Namen behalten</translation>
    </message>
    <message>
        <source>Keep in my library</source>
        <translation>In meiner Bibliothek behalten</translation>
    </message>
    <message>
        <source>Keep it as a template…</source>
        <translation>Als Vorlage behalten…</translation>
    </message>
    <message>
        <source>Keep mine</source>
        <translation>Meines behalten</translation>
    </message>
    <message>
        <source>Keep the chosen point as a case</source>
        <translation>Den gewählten Punkt als Fall behalten</translation>
    </message>
    <message>
        <source>Keep the elements of the file</source>
        <translation>Die Elemente der Datei behalten</translation>
    </message>
    <message>
        <source>Keep the report as a template</source>
        <translation>Den Bericht als Vorlage behalten</translation>
    </message>
    <message>
        <source>Keep this instant's curve beside what comes; once more to let all go</source>
        <translation>Die Kurve dieses Zeitpunkts neben dem behalten, was kommt; noch einmal: alle loslassen</translation>
    </message>
    <message>
        <source>Keep view %1</source>
        <translation>Ansicht %1 behalten</translation>
    </message>
    <message>
        <source>Kept as %1.</source>
        <translation>Behalten als %1.</translation>
    </message>
    <message>
        <source>Kept as case “%1” with its temperatures.</source>
        <translation>Als Fall „%1“ mit seinen Temperaturen behalten.</translation>
    </message>
    <message>
        <source>Kept as case “%1”: solve it to see its scene.</source>
        <translation>Als Fall „%1“ behalten: lösen Sie ihn, um seine Szene zu sehen.</translation>
    </message>
    <message>
        <source>Kept in %1.</source>
        <translation>Behalten in %1.</translation>
    </message>
    <message>
        <source>Keys</source>
        <translation>Tasten</translation>
    </message>
    <message>
        <source>Kind</source>
        <translation>Art</translation>
    </message>
    <message>
        <source>Kind of a parameter</source>
        <translation>Art eines Parameters</translation>
    </message>
    <message>
        <source>Kind of the parameter</source>
        <translation>Art des Parameters</translation>
    </message>
    <message>
        <source>LEVEL</source>
        <translation>NIVEAU</translation>
    </message>
    <message>
        <source>LINES OF EQUAL VALUE</source>
        <translation>LINIEN GLEICHEN WERTS</translation>
    </message>
    <message>
        <source>Label</source>
        <translation>Beschriftung</translation>
    </message>
    <message>
        <source>Labels</source>
        <translation>Beschriftungen</translation>
    </message>
    <message>
        <source>Lan&amp;guage</source>
        <translation>Spra&amp;che</translation>
    </message>
    <message>
        <source>Larger than usual</source>
        <translation>Größer als üblich</translation>
    </message>
    <message>
        <source>Largest size</source>
        <translation>Größte Größe</translation>
    </message>
    <message>
        <source>Largest spread</source>
        <translation>Größte Spanne</translation>
    </message>
    <message>
        <source>Later</source>
        <translation>Später</translation>
    </message>
    <message>
        <source>Lay a line through the model</source>
        <translation>Eine Linie durch das Modell legen</translation>
    </message>
    <message>
        <source>Lay a line through the model: New line.</source>
        <translation>Legen Sie eine Linie durch das Modell: Neue Linie.</translation>
    </message>
    <message>
        <source>Lay a log over the traces (CSV with units in its first line)</source>
        <translation>Eine Aufzeichnung über die Spuren legen (CSV mit Einheiten in der ersten Zeile)</translation>
    </message>
    <message>
        <source>Leave it</source>
        <translation>Bleiben lassen</translation>
    </message>
    <message>
        <source>Leave the tour</source>
        <translation>Den Rundgang verlassen</translation>
    </message>
    <message>
        <source>Left</source>
        <translation>Links</translation>
    </message>
    <message>
        <source>Left empty: %1.</source>
        <translation>Leer gelassen: %1.</translation>
    </message>
    <message>
        <source>Left, about</source>
        <translation>Noch, etwa</translation>
    </message>
    <message>
        <source>Let the program choose</source>
        <translation>Das Programm wählen lassen</translation>
    </message>
    <message>
        <source>Let the value be a figure of a case, taken whenever that is solved</source>
        <translation>Den Wert einen Kennwert eines Falls sein lassen, genommen, wenn immer dieser gelöst wird</translation>
    </message>
    <message>
        <source>Let the value follow a schedule: a table against time</source>
        <translation>Den Wert einem Zeitplan folgen lassen: einer Tabelle über der Zeit</translation>
    </message>
    <message>
        <source>Level</source>
        <translation>Niveau</translation>
    </message>
    <message>
        <source>Library ▾</source>
        <translation>Bibliothek ▾</translation>
    </message>
    <message>
        <source>Light</source>
        <translation>Hell</translation>
    </message>
    <message>
        <source>Line</source>
        <translation>Linie</translation>
    </message>
    <message>
        <source>Line between the two cases</source>
        <translation>Linie zwischen den beiden Fällen</translation>
    </message>
    <message>
        <source>Lines of the mesh</source>
        <translation>Linien des Netzes</translation>
    </message>
    <message>
        <source>Link to the file</source>
        <translation>Mit der Datei verbinden</translation>
    </message>
    <message>
        <source>Log of the chosen case</source>
        <translation>Protokoll des gewählten Falls</translation>
    </message>
    <message>
        <source>Logarithmic</source>
        <translation>Logarithmisch</translation>
    </message>
    <message>
        <source>Logarithmic time axis</source>
        <translation>Logarithmische Zeitachse</translation>
    </message>
    <message>
        <source>Logo</source>
        <translation>Logo</translation>
    </message>
    <message>
        <source>Logo of the report</source>
        <translation>Logo des Berichts</translation>
    </message>
    <message>
        <source>Logo of the title block</source>
        <translation>Logo des Titelblocks</translation>
    </message>
    <message>
        <source>Logs (*.csv *.txt *.tsv);;All files (*)</source>
        <translation>Aufzeichnungen (*.csv *.txt *.tsv);;Alle Dateien (*)</translation>
    </message>
    <message>
        <source>Look from the front corner (Ctrl+Alt+0)</source>
        <translation>Von der vorderen Ecke blicken (Strg+Alt+0)</translation>
    </message>
    <message>
        <source>Look straight at a side (Ctrl+Alt+1 … 6); the ends of the axes in the scene do so too</source>
        <translation>Gerade auf eine Seite blicken (Strg+Alt+1 … 6); die Enden der Achsen in der Szene tun das auch</translation>
    </message>
    <message>
        <source>Lower end of the colours</source>
        <translation>Unteres Ende der Farben</translation>
    </message>
    <message>
        <source>Lumped node</source>
        <translation>Einzelknoten</translation>
    </message>
    <message>
        <source>MESH AND PARTS</source>
        <translation>NETZ UND TEILE</translation>
    </message>
    <message>
        <source>Make %1 the project's</source>
        <translation>%1 zum Wert des Projekts machen</translation>
    </message>
    <message>
        <source>Make a property set</source>
        <translation>Einen Wertesatz machen</translation>
    </message>
    <message>
        <source>Make a re&amp;port…</source>
        <translation>Einen Ber&amp;icht machen…</translation>
    </message>
    <message>
        <source>Make a watch of each of the chosen labels</source>
        <translation>Aus jeder gewählten Beschriftung einen Messwert machen</translation>
    </message>
    <message>
        <source>Make it the project's value</source>
        <translation>Zum Wert des Projekts machen</translation>
    </message>
    <message>
        <source>Make it…</source>
        <translation>Machen…</translation>
    </message>
    <message>
        <source>Make the contacts</source>
        <translation>Die Kontakte anlegen</translation>
    </message>
    <message>
        <source>Make the material</source>
        <translation>Den Werkstoff anlegen</translation>
    </message>
    <message>
        <source>Make the report</source>
        <translation>Den Bericht machen</translation>
    </message>
    <message>
        <source>Manual</source>
        <translation>Handbuch</translation>
    </message>
    <message>
        <source>Map</source>
        <translation>Karte</translation>
    </message>
    <message>
        <source>Margin to the nearer limit; positive is safe</source>
        <translation>Reserve zur näheren Grenze; positiv ist sicher</translation>
    </message>
    <message>
        <source>Material</source>
        <translation>Werkstoff</translation>
    </message>
    <message>
        <source>Material of %1</source>
        <translation>Werkstoff von %1</translation>
    </message>
    <message>
        <source>Material of a part</source>
        <translation>Werkstoff eines Teils</translation>
    </message>
    <message>
        <source>Materials</source>
        <translation>Werkstoffe</translation>
    </message>
    <message>
        <source>Mean heat flux</source>
        <translation>Mittlere Wärmestromdichte</translation>
    </message>
    <message>
        <source>Mean, %1</source>
        <translation>Mittel, %1</translation>
    </message>
    <message>
        <source>Meant for</source>
        <translation>Gemeint für</translation>
    </message>
    <message>
        <source>Measured times are later by</source>
        <translation>Gemessene Zeiten sind später um</translation>
    </message>
    <message>
        <source>Memory</source>
        <translation>Speicher</translation>
    </message>
    <message>
        <source>More</source>
        <translation>Mehr</translation>
    </message>
    <message>
        <source>Move %1</source>
        <translation>%1 verschieben</translation>
    </message>
    <message>
        <source>Move a case</source>
        <translation>Einen Fall verschieben</translation>
    </message>
    <message>
        <source>Move a label</source>
        <translation>Eine Beschriftung verschieben</translation>
    </message>
    <message>
        <source>Move an outline point</source>
        <translation>Einen Umrisspunkt verschieben</translation>
    </message>
    <message>
        <source>Move cases</source>
        <translation>Fälle verschieben</translation>
    </message>
    <message>
        <source>Move the chosen labels to the nearest corner, middle of an edge or face, or centre of an arc</source>
        <translation>Die gewählten Beschriftungen an die nächste Ecke, Mitte einer Kante oder Fläche, oder Bogenmitte setzen</translation>
    </message>
    <message>
        <source>Move view %1</source>
        <translation>Ansicht %1 verschieben</translation>
    </message>
    <message>
        <source>My library</source>
        <translation>Meine Bibliothek</translation>
    </message>
    <message>
        <source>Name</source>
        <translation>Name</translation>
    </message>
    <message>
        <source>Name of a group</source>
        <translation>Name einer Gruppe</translation>
    </message>
    <message>
        <source>Name of a material</source>
        <translation>Name eines Werkstoffs</translation>
    </message>
    <message>
        <source>Name of a set</source>
        <translation>Name eines Satzes</translation>
    </message>
    <message>
        <source>Name of a surface</source>
        <translation>Name einer Oberfläche</translation>
    </message>
    <message>
        <source>Name of the case</source>
        <translation>Name des Falls</translation>
    </message>
    <message>
        <source>Name of the group</source>
        <translation>Name der Gruppe</translation>
    </message>
    <message>
        <source>Name of the parameter</source>
        <translation>Name des Parameters</translation>
    </message>
    <message>
        <source>Name of the set</source>
        <translation>Name des Satzes</translation>
    </message>
    <message>
        <source>Name of the surface</source>
        <translation>Name der Oberfläche</translation>
    </message>
    <message>
        <source>Name of this view</source>
        <translation>Name dieser Ansicht</translation>
    </message>
    <message>
        <source>Name, templates</source>
        <translation>Name, Vorlagen</translation>
    </message>
    <message>
        <source>Names of faces, as shown when the pointer is over them</source>
        <translation>Namen von Flächen, wie sie stehen, wenn der Zeiger über ihnen ist</translation>
    </message>
    <message>
        <source>Narrow the rule, or add faces picked in the scene</source>
        <translation>Die Regel enger fassen, oder in der Szene gewählte Flächen hinzufügen</translation>
    </message>
    <message>
        <source>Net heat</source>
        <translation>Nettowärme</translation>
    </message>
    <message>
        <source>Net heat by radiation from the row to the column%1. Patches twice as large would change a part by %2 at most.</source>
        <translation>Nettowärme durch Strahlung von der Zeile zur Spalte%1. Doppelt so große Flecken änderten ein Teil um höchstens %2.</translation>
    </message>
    <message>
        <source>Network</source>
        <translation>Netzwerk</translation>
    </message>
    <message>
        <source>Network of nodes and parts</source>
        <translation>Netzwerk aus Knoten und Teilen</translation>
    </message>
    <message>
        <source>New &amp;window</source>
        <translation>Neues F&amp;enster</translation>
    </message>
    <message>
        <source>New finish</source>
        <translation>Neue Oberflächenart</translation>
    </message>
    <message>
        <source>New material</source>
        <translation>Neuer Werkstoff</translation>
    </message>
    <message>
        <source>New question</source>
        <translation>Neue Frage</translation>
    </message>
    <message>
        <source>New question about the shown case</source>
        <translation>Neue Frage zum gezeigten Fall</translation>
    </message>
    <message>
        <source>New report from a template</source>
        <translation>Neuer Bericht nach einer Vorlage</translation>
    </message>
    <message>
        <source>New report from a template…</source>
        <translation>Neuer Bericht nach einer Vorlage…</translation>
    </message>
    <message>
        <source>New surface</source>
        <translation>Neue Oberfläche</translation>
    </message>
    <message>
        <source>New, without a material: %1.</source>
        <translation>Neu, ohne Werkstoff: %1.</translation>
    </message>
    <message>
        <source>Next</source>
        <translation>Weiter</translation>
    </message>
    <message>
        <source>Next event: a limit, a rule, a schedule (M)</source>
        <translation>Nächstes Ereignis: eine Grenze, eine Regel, ein Zeitplan (M)</translation>
    </message>
    <message>
        <source>Next peak of a shown trace (P)</source>
        <translation>Nächste Spitze einer gezeigten Spur (P)</translation>
    </message>
    <message>
        <source>No enclosure: readiness offers one for every space inside the model.</source>
        <translation>Kein Hohlraum: die Bereitschaft bietet einen an für jeden Raum im Modell.</translation>
    </message>
    <message>
        <source>No file was taken in</source>
        <translation>Keine Datei wurde hereingeholt</translation>
    </message>
    <message>
        <source>No labels yet. Pin one: a click with the right button in the scene, Ctrl+Alt+L over a place, or coordinates above.</source>
        <translation>Noch keine Beschriftungen. Heften Sie eine an: rechte Maustaste in der Szene, Strg+Alt+L über einem Ort, oder Koordinaten oben.</translation>
    </message>
    <message>
        <source>No logo</source>
        <translation>Kein Logo</translation>
    </message>
    <message>
        <source>No longer in the file; its part keeps its shape until you remove it: %1.</source>
        <translation>Nicht mehr in der Datei; sein Teil behält seine Form, bis Sie es entfernen: %1.</translation>
    </message>
    <message>
        <source>None checked: the case that is shown</source>
        <translation>Keiner angekreuzt: der gezeigte Fall</translation>
    </message>
    <message>
        <source>None of its columns is a %1. Name the unit of the column in [ ] in the first line.</source>
        <translation>Keine ihrer Spalten ist %1. Nennen Sie die Einheit der Spalte in [ ] in der ersten Zeile.</translation>
    </message>
    <message>
        <source>None yet. A parameter is a named value: change it once, and everything that is written with it follows.</source>
        <translation>Noch keine. Ein Parameter ist ein Wert mit Namen: ändern Sie ihn einmal, und alles, was mit ihm geschrieben ist, folgt.</translation>
    </message>
    <message>
        <source>None: it takes every value from the project.</source>
        <translation>Nichts: er nimmt jeden Wert vom Projekt.</translation>
    </message>
    <message>
        <source>Not all cases could be solved: see the queue. The report stays as it was.</source>
        <translation>Nicht alle Fälle konnten gelöst werden: siehe die Warteschlange. Der Bericht bleibt, wie er war.</translation>
    </message>
    <message>
        <source>Not asked yet: press Ask.</source>
        <translation>Noch nicht gefragt: drücken Sie Fragen.</translation>
    </message>
    <message>
        <source>Not made yet.</source>
        <translation>Noch nicht gemacht.</translation>
    </message>
    <message>
        <source>Not meshed yet</source>
        <translation>Noch nicht vernetzt</translation>
    </message>
    <message>
        <source>Not opened</source>
        <translation>Nicht geöffnet</translation>
    </message>
    <message>
        <source>Not packed</source>
        <translation>Nicht gepackt</translation>
    </message>
    <message>
        <source>Not reached after %1 rounds, %2 elements: the last one still moved a hot spot by %3.</source>
        <translation>Nicht erreicht nach %1 Runden, %2 Elemente: die letzte bewegte eine heißeste Stelle noch um %3.</translation>
    </message>
    <message>
        <source>Not read</source>
        <translation>Nicht gelesen</translation>
    </message>
    <message>
        <source>Not recovered</source>
        <translation>Nicht wiederhergestellt</translation>
    </message>
    <message>
        <source>Not run yet. Solve the case to see how long and how hot.</source>
        <translation>Noch nicht gelaufen. Lösen Sie den Fall, um zu sehen, wie lange und wie heiß.</translation>
    </message>
    <message>
        <source>Not saved</source>
        <translation>Nicht gespeichert</translation>
    </message>
    <message>
        <source>Not solved yet.</source>
        <translation>Noch nicht gelöst.</translation>
    </message>
    <message>
        <source>Not solved yet. Heat paths are drawn from the ledger of a result.</source>
        <translation>Noch nicht gelöst. Wärmewege werden nach der Bilanz eines Ergebnisses gezeichnet.</translation>
    </message>
    <message>
        <source>Not unpacked</source>
        <translation>Nicht ausgepackt</translation>
    </message>
    <message>
        <source>Not written</source>
        <translation>Nicht geschrieben</translation>
    </message>
    <message>
        <source>Note</source>
        <translation>Notiz</translation>
    </message>
    <message>
        <source>Note of a parameter</source>
        <translation>Notiz eines Parameters</translation>
    </message>
    <message>
        <source>Nothing flows, or the result is from before heat paths were kept: solve again.</source>
        <translation>Nichts strömt, oder das Ergebnis ist älter als die Wärmewege: lösen Sie noch einmal.</translation>
    </message>
    <message>
        <source>Nothing is known of %1: correct the name of the watch, parameter or case in the words.</source>
        <translation>Nichts ist bekannt von %1: berichtigen Sie den Namen des Messwerts, Parameters oder Falls im Text.</translation>
    </message>
    <message>
        <source>Nothing is missing so far; faces are checked when the parts are meshed.</source>
        <translation>Bisher fehlt nichts; Flächen werden geprüft, wenn die Teile vernetzt sind.</translation>
    </message>
    <message>
        <source>Nothing is raised or sunk yet: move the pointer, or type a height</source>
        <translation>Noch ist nichts erhoben oder versenkt: bewegen Sie den Zeiger, oder geben Sie eine Höhe ein</translation>
    </message>
    <message>
        <source>Nothing to drag yet: add a slider for a number of the model.</source>
        <translation>Noch nichts zu ziehen: fügen Sie einen Regler für eine Zahl des Modells hinzu.</translation>
    </message>
    <message>
        <source>Nothing to draw yet. Add parts or lumped nodes in the ledger.</source>
        <translation>Noch nichts zu zeichnen. Fügen Sie in der Bilanz Teile oder Einzelknoten hinzu.</translation>
    </message>
    <message>
        <source>Nothing to show</source>
        <translation>Nichts zu zeigen</translation>
    </message>
    <message>
        <source>Nothing to write</source>
        <translation>Nichts zu schreiben</translation>
    </message>
    <message>
        <source>Nothing uses it.</source>
        <translation>Nichts benutzt sie.</translation>
    </message>
    <message>
        <source>Nothing varies yet: press the pencil to choose a field.</source>
        <translation>Noch ändert sich nichts: drücken Sie den Stift, um ein Feld zu wählen.</translation>
    </message>
    <message>
        <source>Number</source>
        <translation>Nummer</translation>
    </message>
    <message>
        <source>Numbered pictures (*.png)</source>
        <translation>Nummerierte Bilder (*.png)</translation>
    </message>
    <message>
        <source>Numbers</source>
        <translation>Zahlen</translation>
    </message>
    <message>
        <source>OUT OF DATE: see the first page</source>
        <translation>VERALTET: siehe die erste Seite</translation>
    </message>
    <message>
        <source>Of</source>
        <translation>Firma</translation>
    </message>
    <message>
        <source>Of none: as it is typed</source>
        <translation>Keines: wie er eingegeben ist</translation>
    </message>
    <message>
        <source>On and off…</source>
        <translation>An und aus…</translation>
    </message>
    <message>
        <source>On the skin and on cuts</source>
        <translation>Auf der Haut und auf Schnitten</translation>
    </message>
    <message>
        <source>On the surfaces:</source>
        <translation>Auf den Oberflächen:</translation>
    </message>
    <message>
        <source>On, it is</source>
        <translation>An ist es</translation>
    </message>
    <message>
        <source>One animated picture (*.webp)</source>
        <translation>Ein bewegtes Bild (*.webp)</translation>
    </message>
    <message>
        <source>One camera</source>
        <translation>Eine Kamera</translation>
    </message>
    <message>
        <source>One cycle takes</source>
        <translation>Ein Zyklus dauert</translation>
    </message>
    <message>
        <source>One face up to</source>
        <translation>Eine Fläche bis</translation>
    </message>
    <message>
        <source>Open &amp;recent</source>
        <translation>&amp;Zuletzt geöffnet</translation>
    </message>
    <message>
        <source>Open a project</source>
        <translation>Ein Projekt öffnen</translation>
    </message>
    <message>
        <source>Open the demo</source>
        <translation>Das Beispiel öffnen</translation>
    </message>
    <message>
        <source>Open the demo: a studio kiln at 1000 °C</source>
        <translation>Das Beispiel öffnen: ein Studio-Brennofen bei 1000 °C</translation>
    </message>
    <message>
        <source>Open the folder of resul&amp;ts</source>
        <translation>Den O&amp;rdner der Ergebnisse öffnen</translation>
    </message>
    <message>
        <source>Order of elements</source>
        <translation>Ordnung der Elemente</translation>
    </message>
    <message>
        <source>Order of the sections</source>
        <translation>Folge der Abschnitte</translation>
    </message>
    <message>
        <source>Out of date: %1</source>
        <translation>Veraltet: %1</translation>
    </message>
    <message>
        <source>Outline</source>
        <translation>Umriss</translation>
    </message>
    <message>
        <source>Outline of %1</source>
        <translation>Umriss von %1</translation>
    </message>
    <message>
        <source>Outline point %1</source>
        <translation>Umrisspunkt %1</translation>
    </message>
    <message>
        <source>Outline…</source>
        <translation>Umriss…</translation>
    </message>
    <message>
        <source>Own cuts</source>
        <translation>Eigene Schnitte</translation>
    </message>
    <message>
        <source>Own words before what it tells. {Shell, hottest} stands for that figure, {Shell, hottest | margin} for its margin, {Shell, hottest | Hold} for that of a case; {date}, {author}, {project}, {case}, any parameter.</source>
        <translation>Eigener Text vor dem, was er erzählt. {Shell, hottest} steht für diesen Kennwert, {Shell, hottest | margin} für seine Reserve, {Shell, hottest | Hold} für den eines Falls; {date}, {author}, {project}, {case}, jeder Parameter.</translation>
    </message>
    <message>
        <source>Own words of the section</source>
        <translation>Eigener Text des Abschnitts</translation>
    </message>
    <message>
        <source>PARAMETERS</source>
        <translation>PARAMETER</translation>
    </message>
    <message>
        <source>PARTS</source>
        <translation>TEILE</translation>
    </message>
    <message>
        <source>Pac&amp;k the project with its results…</source>
        <translation>Das Projekt mit seinen Ergebnissen pac&amp;ken…</translation>
    </message>
    <message>
        <source>Pack the project with its results</source>
        <translation>Das Projekt mit seinen Ergebnissen packen</translation>
    </message>
    <message>
        <source>Packed projects (*.kilnpack)</source>
        <translation>Gepackte Projekte (*.kilnpack)</translation>
    </message>
    <message>
        <source>Page for browsers (*.html);;PDF (*.pdf);;OpenDocument text (*.odt)</source>
        <translation>Seite für Browser (*.html);;PDF (*.pdf);;OpenDocument-Text (*.odt)</translation>
    </message>
    <message>
        <source>Pages of the stri&amp;p</source>
        <translation>Seiten des Stre&amp;ifens</translation>
    </message>
    <message>
        <source>Pages of the strip</source>
        <translation>Seiten des Streifens</translation>
    </message>
    <message>
        <source>Palette</source>
        <translation>Farbtafel</translation>
    </message>
    <message>
        <source>Parameters</source>
        <translation>Parameter</translation>
    </message>
    <message>
        <source>Part</source>
        <translation>Teil</translation>
    </message>
    <message>
        <source>Part group</source>
        <translation>Teilegruppe</translation>
    </message>
    <message>
        <source>Part groups as one block each</source>
        <translation>Teilegruppen als je ein Block</translation>
    </message>
    <message>
        <source>Parts that touch come here by themselves; + adds an enclosure that radiates inside.</source>
        <translation>Teile, die sich berühren, stehen von selbst hier; + fügt einen Hohlraum hinzu, in dem Strahlung geht.</translation>
    </message>
    <message>
        <source>Paste</source>
        <translation>Einfügen</translation>
    </message>
    <message>
        <source>Paste a table</source>
        <translation>Tabelle einfügen</translation>
    </message>
    <message>
        <source>Paste a table of materials</source>
        <translation>Tabelle von Werkstoffen einfügen</translation>
    </message>
    <message>
        <source>Paste an outline</source>
        <translation>Einen Umriss einfügen</translation>
    </message>
    <message>
        <source>Paste coordinates</source>
        <translation>Koordinaten einfügen</translation>
    </message>
    <message>
        <source>Paste parameters</source>
        <translation>Parameter einfügen</translation>
    </message>
    <message>
        <source>Paste two columns</source>
        <translation>Zwei Spalten einfügen</translation>
    </message>
    <message>
        <source>Pause: nothing more starts; what runs goes on</source>
        <translation>Pause: nichts Neues beginnt; was läuft, läuft weiter</translation>
    </message>
    <message>
        <source>Peak</source>
        <translation>Spitze</translation>
    </message>
    <message>
        <source>Peak after</source>
        <translation>Spitze nach</translation>
    </message>
    <message>
        <source>Pi&amp;n a label</source>
        <translation>Eine Beschriftung &amp;anheften</translation>
    </message>
    <message>
        <source>Pick a flat face in the scene first.</source>
        <translation>Wählen Sie zuerst eine ebene Fläche in der Szene.</translation>
    </message>
    <message>
        <source>Pick all exposed faces of %1</source>
        <translation>Alle freien Flächen von %1 wählen</translation>
    </message>
    <message>
        <source>Pick this face and its smooth neighbours</source>
        <translation>Diese Fläche und ihre glatten Nachbarn wählen</translation>
    </message>
    <message>
        <source>Pict&amp;ure: palette, lines, levels, cuts, views</source>
        <translation>Bil&amp;d: Farbtafel, Linien, Niveaus, Schnitte, Ansichten</translation>
    </message>
    <message>
        <source>Picture of the bodies</source>
        <translation>Bild der Körper</translation>
    </message>
    <message>
        <source>Picture: palette, lines, levels, heat flux, mesh, cuts and views (Ctrl+L)</source>
        <translation>Bild: Farbtafel, Linien, Niveaus, Wärmestromdichte, Netz, Schnitte und Ansichten (Strg+L)</translation>
    </message>
    <message>
        <source>Pictures (*.png *.jpg *.jpeg *.svg)</source>
        <translation>Bilder (*.png *.jpg *.jpeg *.svg)</translation>
    </message>
    <message>
        <source>Pin a label</source>
        <translation>Eine Beschriftung anheften</translation>
    </message>
    <message>
        <source>Pin a label at these coordinates</source>
        <translation>Eine Beschriftung an diesen Koordinaten anheften</translation>
    </message>
    <message>
        <source>Pin a label here</source>
        <translation>Hier eine Beschriftung anheften</translation>
    </message>
    <message>
        <source>Pin these instants of the run: times, “every 5” stored ones, “marks”; Enter</source>
        <translation>Diese Zeitpunkte des Laufs anheften: Zeiten, „every 5“ gespeicherte, „marks“; Eingabe</translation>
    </message>
    <message>
        <source>Pixels (*.png);;Drawing (*.svg)</source>
        <translation>Pixel (*.png);;Zeichnung (*.svg)</translation>
    </message>
    <message>
        <source>Place %1</source>
        <translation>%1 setzen</translation>
    </message>
    <message>
        <source>Place in the network</source>
        <translation>Platz im Netzwerk</translation>
    </message>
    <message>
        <source>Place of cut %1</source>
        <translation>Ort des Schnitts %1</translation>
    </message>
    <message>
        <source>Place of the section plane</source>
        <translation>Ort der Schnittebene</translation>
    </message>
    <message>
        <source>Place on the picked face ▾</source>
        <translation>Auf die gewählte Fläche setzen ▾</translation>
    </message>
    <message>
        <source>Play or pause (Space)</source>
        <translation>Abspielen oder Pause (Leertaste)</translation>
    </message>
    <message>
        <source>Points as lines over all values</source>
        <translation>Punkte als Linien über allen Werten</translation>
    </message>
    <message>
        <source>Points by two figures</source>
        <translation>Punkte nach zwei Kennwerten</translation>
    </message>
    <message>
        <source>Points of the question</source>
        <translation>Punkte der Frage</translation>
    </message>
    <message>
        <source>Presses within a radius of</source>
        <translation>Presst innerhalb eines Radius von</translation>
    </message>
    <message>
        <source>Prin&amp;t the report…</source>
        <translation>Den Bericht &amp;drucken…</translation>
    </message>
    <message>
        <source>Print it (Ctrl+P)</source>
        <translation>Drucken (Strg+P)</translation>
    </message>
    <message>
        <source>Print the report</source>
        <translation>Den Bericht drucken</translation>
    </message>
    <message>
        <source>Projects (*.kiln *.kilnpack)</source>
        <translation>Projekte (*.kiln *.kilnpack)</translation>
    </message>
    <message>
        <source>Projects (*.kiln)</source>
        <translation>Projekte (*.kiln)</translation>
    </message>
    <message>
        <source>Property &amp;sets…</source>
        <translation>Wert&amp;esätze…</translation>
    </message>
    <message>
        <source>Property set</source>
        <translation>Wertesatz</translation>
    </message>
    <message>
        <source>Property sets</source>
        <translation>Wertesätze</translation>
    </message>
    <message>
        <source>Pull apart</source>
        <translation>Auseinanderziehen</translation>
    </message>
    <message>
        <source>Push a face</source>
        <translation>Eine Fläche schieben</translation>
    </message>
    <message>
        <source>Put this number instead</source>
        <translation>Stattdessen diese Zahl eintragen</translation>
    </message>
    <message>
        <source>Question</source>
        <translation>Frage</translation>
    </message>
    <message>
        <source>Question %1</source>
        <translation>Frage %1</translation>
    </message>
    <message>
        <source>Question: %1</source>
        <translation>Frage: %1</translation>
    </message>
    <message>
        <source>Questions</source>
        <translation>Fragen</translation>
    </message>
    <message>
        <source>Questions %1</source>
        <translation>Fragen %1</translation>
    </message>
    <message>
        <source>Questions asked of the cases: choose one to see its answer</source>
        <translation>Fragen an die Fälle: wählen Sie eine, um ihre Antwort zu sehen</translation>
    </message>
    <message>
        <source>Queue</source>
        <translation>Warteschlange</translation>
    </message>
    <message>
        <source>RECENT</source>
        <translation>ZULETZT</translation>
    </message>
    <message>
        <source>Ra %1</source>
        <translation>Ra %1</translation>
    </message>
    <message>
        <source>Radius of its hole</source>
        <translation>Radius ihres Lochs</translation>
    </message>
    <message>
        <source>Ramps and holds</source>
        <translation>Rampen und Haltezeiten</translation>
    </message>
    <message>
        <source>Ramps and holds…</source>
        <translation>Rampen und Haltezeiten…</translation>
    </message>
    <message>
        <source>Re %1</source>
        <translation>Re %1</translation>
    </message>
    <message>
        <source>Read %1 again</source>
        <translation>%1 wieder lesen</translation>
    </message>
    <message>
        <source>Read points</source>
        <translation>Punkte lesen</translation>
    </message>
    <message>
        <source>Read points from a file</source>
        <translation>Punkte aus einer Datei lesen</translation>
    </message>
    <message>
        <source>Read points from a file…</source>
        <translation>Punkte aus einer Datei lesen…</translation>
    </message>
    <message>
        <source>Readiness: %1 errors, %2 hints</source>
        <translation>Bereitschaft: %1 Fehler, %2 Hinweise</translation>
    </message>
    <message>
        <source>Ready: nothing is missing or doubtful.</source>
        <translation>Bereit: nichts fehlt oder ist zweifelhaft.</translation>
    </message>
    <message>
        <source>Recover unsaved changes</source>
        <translation>Nicht gespeicherte Änderungen wiederherstellen</translation>
    </message>
    <message>
        <source>Recover unsaved changes of “%1”</source>
        <translation>Nicht gespeicherte Änderungen an „%1“ wiederherstellen</translation>
    </message>
    <message>
        <source>Rectangle</source>
        <translation>Rechteck</translation>
    </message>
    <message>
        <source>Refine the mesh</source>
        <translation>Das Netz verfeinern</translation>
    </message>
    <message>
        <source>Refined mesh</source>
        <translation>Verfeinertes Netz</translation>
    </message>
    <message>
        <source>Remarks</source>
        <translation>Bemerkungen</translation>
    </message>
    <message>
        <source>Remove</source>
        <translation>Entfernen</translation>
    </message>
    <message>
        <source>Remove %1</source>
        <translation>%1 entfernen</translation>
    </message>
    <message numerus="yes">
        <source>Remove %n rows</source>
        <translation>
            <numerusform>%n Zeile entfernen</numerusform>
            <numerusform>%n Zeilen entfernen</numerusform>
        </translation>
    </message>
    <message>
        <source>Remove a case</source>
        <translation>Einen Fall entfernen</translation>
    </message>
    <message>
        <source>Remove a line</source>
        <translation>Eine Linie entfernen</translation>
    </message>
    <message>
        <source>Remove a parameter</source>
        <translation>Einen Parameter entfernen</translation>
    </message>
    <message>
        <source>Remove a property set</source>
        <translation>Einen Wertesatz entfernen</translation>
    </message>
    <message>
        <source>Remove a rule</source>
        <translation>Eine Regel entfernen</translation>
    </message>
    <message>
        <source>Remove a section</source>
        <translation>Einen Abschnitt entfernen</translation>
    </message>
    <message>
        <source>Remove a surface or finish</source>
        <translation>Eine Oberfläche oder Art entfernen</translation>
    </message>
    <message>
        <source>Remove an end rule</source>
        <translation>Eine Endregel entfernen</translation>
    </message>
    <message>
        <source>Remove an outline point</source>
        <translation>Einen Umrisspunkt entfernen</translation>
    </message>
    <message>
        <source>Remove cases</source>
        <translation>Fälle entfernen</translation>
    </message>
    <message>
        <source>Remove it</source>
        <translation>Entfernen</translation>
    </message>
    <message>
        <source>Remove labels</source>
        <translation>Beschriftungen entfernen</translation>
    </message>
    <message>
        <source>Remove question</source>
        <translation>Frage entfernen</translation>
    </message>
    <message>
        <source>Remove round faces with a radius below</source>
        <translation>Runde Flächen entfernen mit einem Radius unter</translation>
    </message>
    <message>
        <source>Remove small round faces</source>
        <translation>Kleine runde Flächen entfernen</translation>
    </message>
    <message>
        <source>Remove the chosen labels (Del)</source>
        <translation>Die gewählten Beschriftungen entfernen (Entf)</translation>
    </message>
    <message>
        <source>Remove the parameter; fields that use it keep their value and are reported</source>
        <translation>Den Parameter entfernen; Felder, die ihn benutzen, behalten ihren Wert und werden gemeldet</translation>
    </message>
    <message>
        <source>Remove the picked faces</source>
        <translation>Die gewählten Flächen entfernen</translation>
    </message>
    <message>
        <source>Remove the point</source>
        <translation>Den Punkt entfernen</translation>
    </message>
    <message>
        <source>Remove the question</source>
        <translation>Die Frage entfernen</translation>
    </message>
    <message>
        <source>Remove the report</source>
        <translation>Den Bericht entfernen</translation>
    </message>
    <message>
        <source>Remove the row</source>
        <translation>Die Zeile entfernen</translation>
    </message>
    <message>
        <source>Remove the step</source>
        <translation>Den Schritt entfernen</translation>
    </message>
    <message>
        <source>Remove the stretch</source>
        <translation>Das Stück entfernen</translation>
    </message>
    <message>
        <source>Remove them</source>
        <translation>Sie entfernen</translation>
    </message>
    <message>
        <source>Remove this cut</source>
        <translation>Diesen Schnitt entfernen</translation>
    </message>
    <message>
        <source>Remove this end rule</source>
        <translation>Diese Endregel entfernen</translation>
    </message>
    <message>
        <source>Remove this line</source>
        <translation>Diese Linie entfernen</translation>
    </message>
    <message>
        <source>Remove this report</source>
        <translation>Diesen Bericht entfernen</translation>
    </message>
    <message>
        <source>Remove this rule</source>
        <translation>Diese Regel entfernen</translation>
    </message>
    <message>
        <source>Remove this section of own words</source>
        <translation>Diesen Abschnitt mit eigenem Text entfernen</translation>
    </message>
    <message>
        <source>Remove this watch</source>
        <translation>Diesen Messwert entfernen</translation>
    </message>
    <message>
        <source>Remove view %1</source>
        <translation>Ansicht %1 entfernen</translation>
    </message>
    <message>
        <source>Remove watch %1</source>
        <translation>Messwert %1 entfernen</translation>
    </message>
    <message>
        <source>Rename</source>
        <translation>Umbenennen</translation>
    </message>
    <message>
        <source>Rename a label</source>
        <translation>Eine Beschriftung umbenennen</translation>
    </message>
    <message>
        <source>Rename a parameter</source>
        <translation>Einen Parameter umbenennen</translation>
    </message>
    <message>
        <source>Rename it…</source>
        <translation>Umbenennen…</translation>
    </message>
    <message>
        <source>Rename the report</source>
        <translation>Den Bericht umbenennen</translation>
    </message>
    <message>
        <source>Rename view %1</source>
        <translation>Ansicht %1 umbenennen</translation>
    </message>
    <message>
        <source>Rename…</source>
        <translation>Umbenennen…</translation>
    </message>
    <message>
        <source>Reorder</source>
        <translation>Umordnen</translation>
    </message>
    <message>
        <source>Rep&amp;ort</source>
        <translation>Ber&amp;icht</translation>
    </message>
    <message>
        <source>Repeat</source>
        <translation>Wiederholen</translation>
    </message>
    <message>
        <source>Repeating on and off</source>
        <translation>Wiederholt an und aus</translation>
    </message>
    <message>
        <source>Replace a material</source>
        <translation>Einen Werkstoff ersetzen</translation>
    </message>
    <message>
        <source>Replace everywhere by ▾</source>
        <translation>Überall ersetzen durch ▾</translation>
    </message>
    <message>
        <source>Report</source>
        <translation>Bericht</translation>
    </message>
    <message>
        <source>Report from a template</source>
        <translation>Bericht nach einer Vorlage</translation>
    </message>
    <message>
        <source>Report of other cases</source>
        <translation>Bericht über andere Fälle</translation>
    </message>
    <message>
        <source>Report templates (*.kiln-report)</source>
        <translation>Berichtsvorlagen (*.kiln-report)</translation>
    </message>
    <message>
        <source>Reports of the project</source>
        <translation>Berichte des Projekts</translation>
    </message>
    <message>
        <source>Resistances between parts: the difference of their means over the watts</source>
        <translation>Widerstände zwischen Teilen: der Unterschied ihrer Mittel durch die Watt</translation>
    </message>
    <message>
        <source>Right</source>
        <translation>Rechts</translation>
    </message>
    <message>
        <source>Roughness of both, r.m.s.</source>
        <translation>Rauheit beider, quadratisches Mittel</translation>
    </message>
    <message>
        <source>Round edges</source>
        <translation>Kanten runden</translation>
    </message>
    <message>
        <source>Row %1: %2</source>
        <translation>Zeile %1: %2</translation>
    </message>
    <message>
        <source>Rule</source>
        <translation>Regel</translation>
    </message>
    <message>
        <source>Rule of a surface</source>
        <translation>Regel einer Oberfläche</translation>
    </message>
    <message>
        <source>S&amp;urfaces and finishes</source>
        <translation>&amp;Oberflächen und ihre Art</translation>
    </message>
    <message>
        <source>SI with prefixes: mm, kW, kW/m², h and min</source>
        <translation>SI mit Vorsätzen: mm, kW, kW/m², h und min</translation>
    </message>
    <message>
        <source>SI: m, W, W/m², s</source>
        <translation>SI: m, W, W/m², s</translation>
    </message>
    <message>
        <source>STEP (*.step);;Triangles, in millimetres (*.stl)</source>
        <translation>STEP (*.step);;Dreiecke, in Millimetern (*.stl)</translation>
    </message>
    <message>
        <source>STORED</source>
        <translation>GESPEICHERT</translation>
    </message>
    <message>
        <source>SURROUNDINGS</source>
        <translation>UMGEBUNG</translation>
    </message>
    <message>
        <source>Save &amp;as…</source>
        <translation>Speichern &amp;unter…</translation>
    </message>
    <message>
        <source>Save an animation</source>
        <translation>Eine Animation speichern</translation>
    </message>
    <message>
        <source>Save every step as CSV…</source>
        <translation>Jeden Schritt als CSV speichern…</translation>
    </message>
    <message>
        <source>Save the chart</source>
        <translation>Das Diagramm speichern</translation>
    </message>
    <message>
        <source>Save the chart as a picture…</source>
        <translation>Das Diagramm als Bild speichern…</translation>
    </message>
    <message>
        <source>Save the pictur&amp;e…</source>
        <translation>Das Bild s&amp;peichern…</translation>
    </message>
    <message>
        <source>Save the picture</source>
        <translation>Das Bild speichern</translation>
    </message>
    <message>
        <source>Save the picture as SVG or PNG</source>
        <translation>Das Bild als SVG oder PNG speichern</translation>
    </message>
    <message>
        <source>Save the project</source>
        <translation>Das Projekt speichern</translation>
    </message>
    <message>
        <source>Save the project first, and wait until its shapes are built: areas and volumes share out what is given in all.</source>
        <translation>Speichern Sie das Projekt zuerst, und warten Sie, bis seine Formen gebaut sind: Flächen und Volumen teilen auf, was insgesamt gegeben ist.</translation>
    </message>
    <message>
        <source>Save the project first: it is packed as it is saved.</source>
        <translation>Speichern Sie das Projekt zuerst: es wird gepackt, wie es gespeichert ist.</translation>
    </message>
    <message>
        <source>Save the project first: what a report was made of is kept beside it.</source>
        <translation>Speichern Sie das Projekt zuerst: woraus ein Bericht gemacht ist, wird daneben behalten.</translation>
    </message>
    <message>
        <source>Save the project, then make the report.</source>
        <translation>Speichern Sie das Projekt, dann machen Sie den Bericht.</translation>
    </message>
    <message>
        <source>Save the scene as an animation: one picture that moves, or numbered ones</source>
        <translation>Die Szene als Animation speichern: ein bewegtes Bild, oder nummerierte</translation>
    </message>
    <message>
        <source>Save the table</source>
        <translation>Die Tabelle speichern</translation>
    </message>
    <message>
        <source>Save the table as CSV…</source>
        <translation>Die Tabelle als CSV speichern…</translation>
    </message>
    <message>
        <source>Save the values</source>
        <translation>Die Werte speichern</translation>
    </message>
    <message>
        <source>Save the values as comma-separated text</source>
        <translation>Die Werte als komma-getrennten Text speichern</translation>
    </message>
    <message>
        <source>Save what came out as comma-separated text</source>
        <translation>Was herauskam als komma-getrennten Text speichern</translation>
    </message>
    <message>
        <source>Saved as %1.</source>
        <translation>Als %1 gespeichert.</translation>
    </message>
    <message>
        <source>Save…</source>
        <translation>Speichern…</translation>
    </message>
    <message>
        <source>Saving pictures</source>
        <translation>Bilder werden gespeichert</translation>
    </message>
    <message>
        <source>Scene</source>
        <translation>Szene</translation>
    </message>
    <message>
        <source>Schedule of %1</source>
        <translation>Zeitplan von %1</translation>
    </message>
    <message>
        <source>Search a material or its kind</source>
        <translation>Einen Werkstoff oder seine Art suchen</translation>
    </message>
    <message>
        <source>Search the manual</source>
        <translation>Im Handbuch suchen</translation>
    </message>
    <message>
        <source>Section mode&amp;l…</source>
        <translation>Schnitt&amp;modell…</translation>
    </message>
    <message>
        <source>Section model</source>
        <translation>Schnittmodell</translation>
    </message>
    <message>
        <source>Section on or off</source>
        <translation>Abschnitt an oder aus</translation>
    </message>
    <message>
        <source>Section plane</source>
        <translation>Schnittebene</translation>
    </message>
    <message>
        <source>Sections of the report</source>
        <translation>Abschnitte des Berichts</translation>
    </message>
    <message>
        <source>Sections, in their order</source>
        <translation>Abschnitte, in ihrer Folge</translation>
    </message>
    <message>
        <source>See &amp;through the selected part</source>
        <translation>&amp;Durch das gewählte Teil sehen</translation>
    </message>
    <message>
        <source>See-through parts</source>
        <translation>Durchsichtige Teile</translation>
    </message>
    <message>
        <source>Select a part in the ledger or the scene first.</source>
        <translation>Wählen Sie zuerst ein Teil in der Bilanz oder der Szene.</translation>
    </message>
    <message>
        <source>Select a row of the ledger first.</source>
        <translation>Wählen Sie zuerst eine Zeile der Bilanz.</translation>
    </message>
    <message>
        <source>Select its cases</source>
        <translation>Ihre Fälle wählen</translation>
    </message>
    <message>
        <source>Sensitivities</source>
        <translation>Empfindlichkeiten</translation>
    </message>
    <message>
        <source>Set %1</source>
        <translation>%1 setzen</translation>
    </message>
    <message>
        <source>Settled after</source>
        <translation>Eingeschwungen nach</translation>
    </message>
    <message>
        <source>Settled within</source>
        <translation>Eingeschwungen innerhalb</translation>
    </message>
    <message>
        <source>Settled: from when on it stays within</source>
        <translation>Eingeschwungen: ab wann es innerhalb bleibt von</translation>
    </message>
    <message>
        <source>Shape</source>
        <translation>Form</translation>
    </message>
    <message>
        <source>Shape of %1</source>
        <translation>Form von %1</translation>
    </message>
    <message>
        <source>Shapes and mesh</source>
        <translation>Formen und Netz</translation>
    </message>
    <message>
        <source>Show a level</source>
        <translation>Ein Niveau zeigen</translation>
    </message>
    <message>
        <source>Show all &amp;parts</source>
        <translation>Alle &amp;Teile zeigen</translation>
    </message>
    <message>
        <source>Show cases with these words in name, group, comment, kind or state</source>
        <translation>Fälle zeigen, in deren Name, Gruppe, Bemerkung, Art oder Zustand diese Wörter stehen</translation>
    </message>
    <message>
        <source>Show here how it would look now</source>
        <translation>Hier zeigen, wie er jetzt aussähe</translation>
    </message>
    <message>
        <source>Show it</source>
        <translation>Zeigen</translation>
    </message>
    <message>
        <source>Show it (Ctrl+%1)</source>
        <translation>Zeigen (Strg+%1)</translation>
    </message>
    <message>
        <source>Show or hide %1</source>
        <translation>%1 zeigen oder verbergen</translation>
    </message>
    <message>
        <source>Show the &amp;queue</source>
        <translation>Die &amp;Warteschlange zeigen</translation>
    </message>
    <message>
        <source>Show the whole model (Ctrl+0)</source>
        <translation>Das ganze Modell zeigen (Strg+0)</translation>
    </message>
    <message>
        <source>Show what each line resists: the difference of its ends over its watts</source>
        <translation>Zeigen, welchen Widerstand jede Linie hat: der Unterschied ihrer Enden durch ihre Watt</translation>
    </message>
    <message>
        <source>Show where the value is</source>
        <translation>Zeigen, wo der Wert liegt</translation>
    </message>
    <message>
        <source>Shows</source>
        <translation>Zeigt</translation>
    </message>
    <message>
        <source>Sit on it</source>
        <translation>Darauf setzen</translation>
    </message>
    <message>
        <source>Sit on it, centred</source>
        <translation>Zentriert darauf setzen</translation>
    </message>
    <message>
        <source>Situation</source>
        <translation>Lage</translation>
    </message>
    <message>
        <source>Situation of a coefficient</source>
        <translation>Lage eines Koeffizienten</translation>
    </message>
    <message>
        <source>Size</source>
        <translation>Größe</translation>
    </message>
    <message>
        <source>Sizes of what is drawn</source>
        <translation>Maße des Gezeichneten</translation>
    </message>
    <message>
        <source>Slope of the roughness</source>
        <translation>Steigung der Rauheit</translation>
    </message>
    <message>
        <source>Small holes and roundings that only make the mesh large, e.g. 1 mm</source>
        <translation>Kleine Löcher und Rundungen, die das Netz nur groß machen, z. B. 1 mm</translation>
    </message>
    <message>
        <source>Smallest size</source>
        <translation>Kleinste Größe</translation>
    </message>
    <message>
        <source>Snap labels</source>
        <translation>Beschriftungen einrasten</translation>
    </message>
    <message>
        <source>Solve</source>
        <translation>Lösen</translation>
    </message>
    <message>
        <source>Solve &amp;all cases</source>
        <translation>&amp;Alle Fälle lösen</translation>
    </message>
    <message>
        <source>Solve its cases</source>
        <translation>Ihre Fälle lösen</translation>
    </message>
    <message>
        <source>Solve the &amp;shown case</source>
        <translation>Den &amp;gezeigten Fall lösen</translation>
    </message>
    <message>
        <source>Solve the case first: what is solved can be followed.</source>
        <translation>Lösen Sie den Fall zuerst: was gelöst ist, kann verfolgt werden.</translation>
    </message>
    <message>
        <source>Solve the case to see how long it takes.</source>
        <translation>Lösen Sie den Fall, um zu sehen, wie lange es dauert.</translation>
    </message>
    <message>
        <source>Solve the case to see values along a line.</source>
        <translation>Lösen Sie den Fall, um Werte entlang einer Linie zu sehen.</translation>
    </message>
    <message>
        <source>Solve the shown case (F5)</source>
        <translation>Den gezeigten Fall lösen (F5)</translation>
    </message>
    <message>
        <source>Solve these %1 cases</source>
        <translation>Diese %1 Fälle lösen</translation>
    </message>
    <message>
        <source>Solve to see who heats whom.</source>
        <translation>Lösen Sie, um zu sehen, wer wen wärmt.</translation>
    </message>
    <message>
        <source>Solve what is needed, and make it again with the same words, where it was</source>
        <translation>Lösen, was nötig ist, und ihn mit demselben Text am selben Ort neu machen</translation>
    </message>
    <message>
        <source>Solves the points that are not known yet</source>
        <translation>Löst die Punkte, die noch nicht bekannt sind</translation>
    </message>
    <message>
        <source>Solves with lowest priority for processors and disks</source>
        <translation>Löst mit niedrigstem Vorrang für Prozessoren und Platten</translation>
    </message>
    <message>
        <source>Source</source>
        <translation>Quelle</translation>
    </message>
    <message>
        <source>Speed of playing</source>
        <translation>Tempo des Abspielens</translation>
    </message>
    <message>
        <source>Speed of playing (+ and −)</source>
        <translation>Tempo des Abspielens (+ und −)</translation>
    </message>
    <message>
        <source>Stands the values up over the section, as high as they are</source>
        <translation>Stellt die Werte über dem Schnitt auf, so hoch wie sie sind</translation>
    </message>
    <message>
        <source>Start</source>
        <translation>Anfang</translation>
    </message>
    <message>
        <source>Start from another project</source>
        <translation>Von einem anderen Projekt aus beginnen</translation>
    </message>
    <message>
        <source>Start with an empty project</source>
        <translation>Mit einem leeren Projekt beginnen</translation>
    </message>
    <message>
        <source>Starts from</source>
        <translation>Beginnt mit</translation>
    </message>
    <message>
        <source>State</source>
        <translation>Zustand</translation>
    </message>
    <message>
        <source>Steps</source>
        <translation>Stufen</translation>
    </message>
    <message>
        <source>Still air in a cavity</source>
        <translation>Ruhende Luft in einem Spalt</translation>
    </message>
    <message>
        <source>Still air in a cavity…</source>
        <translation>Ruhende Luft in einem Spalt…</translation>
    </message>
    <message>
        <source>Stop after this one: what waits is forgotten, what runs goes on</source>
        <translation>Nach diesem anhalten: was wartet, ist vergessen, was läuft, läuft weiter</translation>
    </message>
    <message>
        <source>Stop what runs and forget what waits (Ctrl+.)</source>
        <translation>Anhalten, was läuft, und vergessen, was wartet (Strg+.)</translation>
    </message>
    <message>
        <source>Stop: points that are solved stay known</source>
        <translation>Anhalten: gelöste Punkte bleiben bekannt</translation>
    </message>
    <message>
        <source>Store also</source>
        <translation>Auch speichern</translation>
    </message>
    <message>
        <source>Store also ▾</source>
        <translation>Auch speichern ▾</translation>
    </message>
    <message>
        <source>Stored</source>
        <translation>Gespeichert</translation>
    </message>
    <message>
        <source>Stored at</source>
        <translation>Gespeichert bei</translation>
    </message>
    <message>
        <source>Stored from</source>
        <translation>Gespeichert ab</translation>
    </message>
    <message>
        <source>Straight at a s&amp;ide</source>
        <translation>&amp;Gerade auf eine Seite</translation>
    </message>
    <message>
        <source>Streamlines from the hottest place</source>
        <translation>Stromlinien vom heißesten Ort</translation>
    </message>
    <message>
        <source>Streamlines through here</source>
        <translation>Stromlinien durch diesen Ort</translation>
    </message>
    <message>
        <source>Stretch %1: %2</source>
        <translation>Stück %1: %2</translation>
    </message>
    <message>
        <source>Stretch %1: Times cannot be negative.</source>
        <translation>Stück %1: Zeiten können nicht negativ sein.</translation>
    </message>
    <message>
        <source>Surface name</source>
        <translation>Name der Oberfläche</translation>
    </message>
    <message>
        <source>Surface or finish</source>
        <translation>Oberfläche oder Oberflächenart</translation>
    </message>
    <message>
        <source>Surfaces</source>
        <translation>Oberflächen</translation>
    </message>
    <message>
        <source>Surroundings</source>
        <translation>Umgebung</translation>
    </message>
    <message>
        <source>Switch off %1</source>
        <translation>%1 ausschalten</translation>
    </message>
    <message>
        <source>Switch off without deleting (Space)</source>
        <translation>Ausschalten, ohne zu löschen (Leertaste)</translation>
    </message>
    <message>
        <source>Switch on %1</source>
        <translation>%1 einschalten</translation>
    </message>
    <message>
        <source>Switched off. Switch on (Space)</source>
        <translation>Ausgeschaltet. Einschalten (Leertaste)</translation>
    </message>
    <message>
        <source>Switches the step off, or on again</source>
        <translation>Schaltet den Schritt aus, oder wieder an</translation>
    </message>
    <message>
        <source>Table against temperature</source>
        <translation>Tabelle über der Temperatur</translation>
    </message>
    <message>
        <source>Table of %1</source>
        <translation>Tabelle von %1</translation>
    </message>
    <message>
        <source>Tables (*.csv *.txt *.tsv *.dat);;All files (*)</source>
        <translation>Tabellen (*.csv *.txt *.tsv *.dat);;Alle Dateien (*)</translation>
    </message>
    <message>
        <source>Tables (*.csv *.txt *.tsv);;All files (*)</source>
        <translation>Tabellen (*.csv *.txt *.tsv);;Alle Dateien (*)</translation>
    </message>
    <message>
        <source>Tables and project files (*.csv *.txt *.tsv *.json *.kiln)</source>
        <translation>Tabellen und Projektdateien (*.csv *.txt *.tsv *.json *.kiln)</translation>
    </message>
    <message>
        <source>Take %1</source>
        <translation>%1 nehmen</translation>
    </message>
    <message>
        <source>Take a figure of a case</source>
        <translation>Einen Kennwert eines Falls nehmen</translation>
    </message>
    <message>
        <source>Take a group apart</source>
        <translation>Eine Gruppe auflösen</translation>
    </message>
    <message>
        <source>Take a property set</source>
        <translation>Einen Wertesatz nehmen</translation>
    </message>
    <message>
        <source>Take along what this page shows: its table, its chart</source>
        <translation>Mitnehmen, was diese Seite zeigt: ihre Tabelle, ihr Diagramm</translation>
    </message>
    <message>
        <source>Take apart</source>
        <translation>Trennen</translation>
    </message>
    <message>
        <source>Take figures of cases</source>
        <translation>Kennwerte von Fällen nehmen</translation>
    </message>
    <message>
        <source>Take from my library</source>
        <translation>Aus meiner Bibliothek nehmen</translation>
    </message>
    <message>
        <source>Take from my library…</source>
        <translation>Aus meiner Bibliothek nehmen…</translation>
    </message>
    <message>
        <source>Take in</source>
        <translation>Hereinholen</translation>
    </message>
    <message>
        <source>Take in %1</source>
        <translation>%1 hereinholen</translation>
    </message>
    <message>
        <source>Take in &amp;geometry…</source>
        <translation>&amp;Geometrie hereinholen…</translation>
    </message>
    <message>
        <source>Take in geometry</source>
        <translation>Geometrie hereinholen</translation>
    </message>
    <message>
        <source>Take in geometry… (Ctrl+Shift+O)</source>
        <translation>Geometrie hereinholen… (Strg+Umschalt+O)</translation>
    </message>
    <message>
        <source>Take into the project</source>
        <translation>Ins Projekt nehmen</translation>
    </message>
    <message>
        <source>Take it anew from what is shown</source>
        <translation>Aus dem Gezeigten neu aufnehmen</translation>
    </message>
    <message>
        <source>Take it out of the set</source>
        <translation>Aus dem Satz nehmen</translation>
    </message>
    <message>
        <source>Take materials in</source>
        <translation>Werkstoffe hereinholen</translation>
    </message>
    <message>
        <source>Take materials in from a table, write them as one</source>
        <translation>Werkstoffe aus einer Tabelle hereinholen, als eine schreiben</translation>
    </message>
    <message>
        <source>Take materials in…</source>
        <translation>Werkstoffe hereinholen…</translation>
    </message>
    <message>
        <source>Take out %1</source>
        <translation>%1 herausnehmen</translation>
    </message>
    <message>
        <source>Take the changes</source>
        <translation>Die Änderungen nehmen</translation>
    </message>
    <message>
        <source>Take the group apart</source>
        <translation>Die Gruppe auflösen</translation>
    </message>
    <message>
        <source>Take the project's %1</source>
        <translation>%1 des Projekts nehmen</translation>
    </message>
    <message>
        <source>Take the project's value again</source>
        <translation>Wieder den Wert des Projekts nehmen</translation>
    </message>
    <message>
        <source>Take theirs</source>
        <translation>Das andere nehmen</translation>
    </message>
    <message>
        <source>Take what is on the disk</source>
        <translation>Nehmen, was auf der Platte steht</translation>
    </message>
    <message>
        <source>Taken: all of its values have a match here.</source>
        <translation>Genommen: alle seine Werte finden hier ihr Gegenstück.</translation>
    </message>
    <message>
        <source>Takes %1, or a formula of parameters.</source>
        <translation>Nimmt %1 oder eine Formel aus Parametern.</translation>
    </message>
    <message>
        <source>Tells of</source>
        <translation>Erzählt von</translation>
    </message>
    <message>
        <source>Temperature</source>
        <translation>Temperatur</translation>
    </message>
    <message>
        <source>Temperature %1</source>
        <translation>Temperatur %1</translation>
    </message>
    <message>
        <source>Temperature &amp;unit</source>
        <translation>&amp;Temperatureinheit</translation>
    </message>
    <message>
        <source>Temperature at a place</source>
        <translation>Temperatur an einem Ort</translation>
    </message>
    <message>
        <source>Temperature at a place I click</source>
        <translation>Temperatur an einem Ort, den ich anklicke</translation>
    </message>
    <message>
        <source>Temperature at the centre of an arc I click</source>
        <translation>Temperatur in der Mitte eines Bogens, den ich anklicke</translation>
    </message>
    <message>
        <source>Temperature, %1</source>
        <translation>Temperatur, %1</translation>
    </message>
    <message>
        <source>That edge is no arc: click near another one (Esc gives up)</source>
        <translation>Diese Kante ist kein Bogen: klicken Sie nahe einer anderen (Esc lässt es sein)</translation>
    </message>
    <message>
        <source>That face is not flat: click another one (Esc goes back)</source>
        <translation>Diese Fläche ist nicht eben: klicken Sie eine andere an (Esc geht zurück)</translation>
    </message>
    <message>
        <source>The answer to “%1” is out of date, or was not asked for.</source>
        <translation>Die Antwort auf „%1“ ist veraltet, oder es wurde nicht gefragt.</translation>
    </message>
    <message>
        <source>The chosen one earlier</source>
        <translation>Den gewählten früher</translation>
    </message>
    <message>
        <source>The chosen one later</source>
        <translation>Den gewählten später</translation>
    </message>
    <message>
        <source>The clipboard holds no three points: copy two columns of millimetres, a third for arc heights.</source>
        <translation>In der Zwischenablage stehen keine drei Punkte: kopieren Sie zwei Spalten in Millimetern, eine dritte für Bogenhöhen.</translation>
    </message>
    <message>
        <source>The clipboard holds no two columns of numbers. Copy them from a spreadsheet first.</source>
        <translation>In der Zwischenablage stehen keine zwei Spalten Zahlen. Kopieren Sie sie zuerst aus einer Tabellenkalkulation.</translation>
    </message>
    <message>
        <source>The compared case</source>
        <translation>Der verglichene Fall</translation>
    </message>
    <message>
        <source>The compared case &amp;beside</source>
        <translation>Den verglichenen Fall dane&amp;ben</translation>
    </message>
    <message>
        <source>The compared case behind a &amp;line</source>
        <translation>Den verglichenen Fall hinter einer Lin&amp;ie</translation>
    </message>
    <message>
        <source>The compared case behind a line across the shown one (Ctrl+Alt+B)</source>
        <translation>Der verglichene Fall hinter einer Linie über dem gezeigten (Strg+Alt+B)</translation>
    </message>
    <message>
        <source>The compared case beside the shown one (Ctrl+B); choose it on What differs</source>
        <translation>Der verglichene Fall neben dem gezeigten (Strg+B); wählen Sie ihn unter Was sich unterscheidet</translation>
    </message>
    <message>
        <source>The eye above shows here how the report would look now.</source>
        <translation>Das Auge oben zeigt hier, wie der Bericht jetzt aussähe.</translation>
    </message>
    <message>
        <source>The figures you care about: select a part, a surface or a node, then press Watch; give each a limit.</source>
        <translation>Die Kennwerte, auf die es Ihnen ankommt: wählen Sie ein Teil, eine Oberfläche oder einen Knoten, dann drücken Sie Beobachten; geben Sie jedem eine Grenze.</translation>
    </message>
    <message>
        <source>The file does not say; look whether the sizes below are right.</source>
        <translation>Die Datei sagt es nicht; sehen Sie nach, ob die Größen unten stimmen.</translation>
    </message>
    <message>
        <source>The first %1 of %2 points.</source>
        <translation>Die ersten %1 von %2 Punkten.</translation>
    </message>
    <message>
        <source>The formula may use the place x, y, z.</source>
        <translation>Die Formel darf den Ort x, y, z benutzen.</translation>
    </message>
    <message>
        <source>The heat goes</source>
        <translation>Die Wärme geht</translation>
    </message>
    <message>
        <source>The ledger is the model: heat in, parts, contacts, surroundings, each with its watts after a solve. + adds a row, Enter opens it, Space switches it off.</source>
        <translation>Die Bilanz ist das Modell: Wärme hinein, Teile, Kontakte, Umgebung, jedes nach dem Lösen mit seinen Watt. + fügt eine Zeile hinzu, Eingabe öffnet sie, die Leertaste schaltet sie aus.</translation>
    </message>
    <message>
        <source>The log holds no temperatures.</source>
        <translation>In der Aufzeichnung stehen keine Temperaturen.</translation>
    </message>
    <message>
        <source>The manual is not installed beside the program.</source>
        <translation>Das Handbuch ist nicht neben dem Programm eingerichtet.</translation>
    </message>
    <message>
        <source>The model</source>
        <translation>Das Modell</translation>
    </message>
    <message>
        <source>The model is</source>
        <translation>Das Modell ist</translation>
    </message>
    <message>
        <source>The old name is kept.</source>
        <translation>Der alte Name bleibt.</translation>
    </message>
    <message>
        <source>The other side goes</source>
        <translation>Die andere Seite fällt weg</translation>
    </message>
    <message>
        <source>The part has changed: draw once more</source>
        <translation>Das Teil hat sich geändert: zeichnen Sie noch einmal</translation>
    </message>
    <message>
        <source>The part is meshed with the elements it has in its file, as they are</source>
        <translation>Das Teil wird mit den Elementen vernetzt, die es in seiner Datei hat, so wie sie sind</translation>
    </message>
    <message>
        <source>The parts keep their shapes; flat ones need another form.</source>
        <translation>Die Teile behalten ihre Formen; ebene brauchen eine andere Form.</translation>
    </message>
    <message>
        <source>The picked face is not flat across an axis; place the part by numbers.</source>
        <translation>Die gewählte Fläche steht nicht quer zu einer Achse; setzen Sie das Teil mit Zahlen.</translation>
    </message>
    <message>
        <source>The plane stands across</source>
        <translation>Die Ebene steht quer zu</translation>
    </message>
    <message>
        <source>The points of a sweep are handed to a workload manager; the job goes on when the window is closed</source>
        <translation>Die Punkte werden einer Auftragsverwaltung gegeben; der Auftrag läuft weiter, wenn das Fenster geschlossen wird</translation>
    </message>
    <message>
        <source>The program speaks it from its next start.</source>
        <translation>Das Programm spricht sie ab seinem nächsten Start.</translation>
    </message>
    <message>
        <source>The program that writes it ended early. Try again.</source>
        <translation>Das Programm, das es schreibt, endete zu früh. Versuchen Sie es noch einmal.</translation>
    </message>
    <message>
        <source>The project keeps only where the file is, not its shapes; it says when the file changes.</source>
        <translation>Das Projekt merkt sich nur, wo die Datei ist, nicht ihre Formen; es sagt, wenn die Datei sich ändert.</translation>
    </message>
    <message>
        <source>The reader stopped unexpectedly on this file. The project is unchanged; write the file again, or part by part.</source>
        <translation>Der Leser hielt bei dieser Datei unerwartet an. Das Projekt ist unverändert; schreiben Sie die Datei noch einmal, oder Teil für Teil.</translation>
    </message>
    <message>
        <source>The report is made: %1</source>
        <translation>Der Bericht ist gemacht: %1</translation>
    </message>
    <message>
        <source>The report is made…</source>
        <translation>Der Bericht wird gemacht…</translation>
    </message>
    <message>
        <source>The result is out of date (%1): solve it first.</source>
        <translation>Das Ergebnis ist veraltet (%1): lösen Sie es zuerst.</translation>
    </message>
    <message>
        <source>The same traces of the cases selected with this one, else of the compared one</source>
        <translation>Dieselben Spuren der mit diesem gewählten Fälle, sonst des verglichenen</translation>
    </message>
    <message>
        <source>The scene: drag to turn, wheel to zoom, click a face to select its part and to pick the face. Materials and parameters are on the other pages.</source>
        <translation>Die Szene: ziehen dreht, das Rad vergrößert, ein Klick auf eine Fläche wählt ihr Teil und die Fläche. Werkstoffe und Parameter sind auf den anderen Seiten.</translation>
    </message>
    <message>
        <source>The selected bodies become one part</source>
        <translation>Die gewählten Körper werden ein Teil</translation>
    </message>
    <message>
        <source>The selected bodies become parts of their own again</source>
        <translation>Die gewählten Körper werden wieder eigene Teile</translation>
    </message>
    <message>
        <source>The shapes are not built yet</source>
        <translation>Die Formen sind noch nicht gebaut</translation>
    </message>
    <message>
        <source>The shapes are still being built; try again in a moment.</source>
        <translation>Die Formen werden noch gebaut; versuchen Sie es gleich noch einmal.</translation>
    </message>
    <message>
        <source>The shown case beside</source>
        <translation>Der gezeigte Fall daneben</translation>
    </message>
    <message>
        <source>The shown case changes nothing. Set some values with “this case only”, then come back.</source>
        <translation>Der gezeigte Fall ändert nichts. Setzen Sie Werte mit „nur dieser Fall“, dann kommen Sie wieder.</translation>
    </message>
    <message>
        <source>The shown case has no result. Solve it first.</source>
        <translation>Der gezeigte Fall hat kein Ergebnis. Lösen Sie ihn zuerst.</translation>
    </message>
    <message>
        <source>The strip: numbers of the shown case, ready to copy. Ctrl+K finds any command, F1 opens the manual.</source>
        <translation>Der Streifen: Zahlen des gezeigten Falls, fertig zum Kopieren. Strg+K findet jeden Befehl, F1 öffnet das Handbuch.</translation>
    </message>
    <message>
        <source>The table is empty.</source>
        <translation>Die Tabelle ist leer.</translation>
    </message>
    <message>
        <source>Their colour says how large the flux is; else their length</source>
        <translation>Ihre Farbe sagt, wie groß die Wärmestromdichte ist; sonst ihre Länge</translation>
    </message>
    <message>
        <source>There is no other case</source>
        <translation>Es gibt keinen anderen Fall</translation>
    </message>
    <message>
        <source>There is no other case to compare with: copy this one and change something.</source>
        <translation>Es gibt keinen anderen Fall zum Vergleichen: kopieren Sie diesen und ändern Sie etwas.</translation>
    </message>
    <message>
        <source>There is no stretch yet: say to which value it goes, how fast, and how long it stays.</source>
        <translation>Es gibt noch kein Stück: sagen Sie, auf welchen Wert es geht, wie schnell, und wie lange es bleibt.</translation>
    </message>
    <message>
        <source>There is none yet. Change values in one case alone, then make a set of them.</source>
        <translation>Es gibt noch keinen. Ändern Sie Werte nur in einem Fall, dann machen Sie daraus einen Satz.</translation>
    </message>
    <message>
        <source>There is nothing to take along yet</source>
        <translation>Es gibt noch nichts mitzunehmen</translation>
    </message>
    <message>
        <source>Thermostat</source>
        <translation>Thermostat</translation>
    </message>
    <message>
        <source>Thicken a face</source>
        <translation>Eine Fläche aufdicken</translation>
    </message>
    <message>
        <source>Thickness along the heat</source>
        <translation>Dicke in Richtung der Wärme</translation>
    </message>
    <message>
        <source>This case is steady. Copy it as a transient one to see how it gets there.</source>
        <translation>Dieser Fall ist stationär. Kopieren Sie ihn als instationären, um zu sehen, wie er dahin kommt.</translation>
    </message>
    <message>
        <source>This case is steady: nothing takes time.</source>
        <translation>Dieser Fall ist stationär: nichts braucht Zeit.</translation>
    </message>
    <message>
        <source>This edge is not in the mesh.</source>
        <translation>Diese Kante ist nicht im Netz.</translation>
    </message>
    <message>
        <source>This line passes no part.</source>
        <translation>Diese Linie geht durch kein Teil.</translation>
    </message>
    <message>
        <source>Tilt a face</source>
        <translation>Eine Fläche neigen</translation>
    </message>
    <message>
        <source>Time</source>
        <translation>Zeit</translation>
    </message>
    <message>
        <source>Time gone</source>
        <translation>Vergangen</translation>
    </message>
    <message>
        <source>Time s (or 2 h)</source>
        <translation>Zeit s (oder 2 h)</translation>
    </message>
    <message>
        <source>Title</source>
        <translation>Titel</translation>
    </message>
    <message>
        <source>Title of a section</source>
        <translation>Titel eines Abschnitts</translation>
    </message>
    <message>
        <source>Title of the section</source>
        <translation>Titel des Abschnitts</translation>
    </message>
    <message>
        <source>To the front: shown on opening</source>
        <translation>Nach vorn: beim Öffnen gezeigt</translation>
    </message>
    <message>
        <source>Top</source>
        <translation>Oben</translation>
    </message>
    <message>
        <source>Total or per area</source>
        <translation>Gesamt oder je Fläche</translation>
    </message>
    <message>
        <source>Traces</source>
        <translation>Spuren</translation>
    </message>
    <message>
        <source>Traces against time</source>
        <translation>Spuren über der Zeit</translation>
    </message>
    <message>
        <source>Triangles that meet at less than this angle make one face; the picture shows which.</source>
        <translation>Dreiecke, die sich unter einem kleineren Winkel als diesem treffen, bilden eine Fläche; das Bild zeigt, welche.</translation>
    </message>
    <message>
        <source>Turn into a sheet</source>
        <translation>In ein Blech verwandeln</translation>
    </message>
    <message>
        <source>Two columns copied from a spreadsheet: names, and values with their units; a third one for the unit, a last one for a note</source>
        <translation>Zwei Spalten aus einer Tabellenkalkulation: Namen und Werte mit Einheiten; eine dritte für die Einheit, eine letzte für eine Notiz</translation>
    </message>
    <message>
        <source>Two figures</source>
        <translation>Zwei Kennwerte</translation>
    </message>
    <message>
        <source>Type what you want to do</source>
        <translation>Schreiben Sie, was Sie tun wollen</translation>
    </message>
    <message>
        <source>Unchanged: %1.</source>
        <translation>Unverändert: %1.</translation>
    </message>
    <message>
        <source>Under the pointer</source>
        <translation>Unter dem Zeiger</translation>
    </message>
    <message>
        <source>Unfold the strip (Alt+T)</source>
        <translation>Den Streifen aufklappen (Alt+T)</translation>
    </message>
    <message>
        <source>Unpack into which folder?</source>
        <translation>In welchen Ordner auspacken?</translation>
    </message>
    <message>
        <source>Unsaved changes</source>
        <translation>Nicht gespeicherte Änderungen</translation>
    </message>
    <message>
        <source>Untick what you do not need; a name can be changed by a double click.</source>
        <translation>Haken Sie ab, was Sie nicht brauchen; ein Doppelklick ändert einen Namen.</translation>
    </message>
    <message>
        <source>Until the hottest place moves by less than (kelvin, or a share of the rise)</source>
        <translation>Bis der heißeste Ort sich um weniger bewegt als (Kelvin, oder ein Anteil der Erwärmung)</translation>
    </message>
    <message>
        <source>Up to</source>
        <translation>Bis zu</translation>
    </message>
    <message>
        <source>Up to a face</source>
        <translation>Bis zu einer Fläche</translation>
    </message>
    <message>
        <source>Up to the picked face</source>
        <translation>Bis zur gewählten Fläche</translation>
    </message>
    <message>
        <source>Upper end of the colours</source>
        <translation>Oberes Ende der Farben</translation>
    </message>
    <message>
        <source>Use</source>
        <translation>Nehmen</translation>
    </message>
    <message>
        <source>Use the table</source>
        <translation>Die Tabelle nehmen</translation>
    </message>
    <message>
        <source>Use these</source>
        <translation>Diese nehmen</translation>
    </message>
    <message>
        <source>Used</source>
        <translation>Benutzt</translation>
    </message>
    <message>
        <source>Used by:</source>
        <translation>Benutzt von:</translation>
    </message>
    <message>
        <source>Usual Kiln: a thermal bench.</source>
        <translation>Usual Kiln: ein Prüfstand für Wärme.</translation>
    </message>
    <message>
        <source>Usual coefficient</source>
        <translation>Üblicher Koeffizient</translation>
    </message>
    <message>
        <source>Usual contact</source>
        <translation>Üblicher Kontakt</translation>
    </message>
    <message>
        <source>Usual values ▾</source>
        <translation>Übliche Werte ▾</translation>
    </message>
    <message>
        <source>VIEWS OF THE PROJECT</source>
        <translation>ANSICHTEN DES PROJEKTS</translation>
    </message>
    <message>
        <source>Value</source>
        <translation>Wert</translation>
    </message>
    <message>
        <source>Value %1</source>
        <translation>Wert %1</translation>
    </message>
    <message>
        <source>Value a rule sets</source>
        <translation>Wert, den eine Regel setzt</translation>
    </message>
    <message>
        <source>Value as height</source>
        <translation>Wert als Höhe</translation>
    </message>
    <message>
        <source>Value of a case</source>
        <translation>Wert eines Falls</translation>
    </message>
    <message>
        <source>Value of a set</source>
        <translation>Wert eines Satzes</translation>
    </message>
    <message>
        <source>Value of the level</source>
        <translation>Wert des Niveaus</translation>
    </message>
    <message>
        <source>Value of the project</source>
        <translation>Wert des Projekts</translation>
    </message>
    <message>
        <source>Value or formula</source>
        <translation>Wert oder Formel</translation>
    </message>
    <message>
        <source>Values along the line</source>
        <translation>Werte entlang der Linie</translation>
    </message>
    <message>
        <source>Values that belong together, such as “Aged” or “Winter”. A case takes a set by naming it in its editor; what it has of its own counts before it.</source>
        <translation>Werte, die zusammengehören, etwa „Gealtert“ oder „Winter“. Ein Fall nimmt einen Satz, indem er ihn in seinem Editor nennt; was er selbst hat, geht ihm vor.</translation>
    </message>
    <message>
        <source>Values that vary</source>
        <translation>Werte, die sich ändern</translation>
    </message>
    <message>
        <source>Values, with semicolons between them</source>
        <translation>Werte, mit Strichpunkten dazwischen</translation>
    </message>
    <message>
        <source>Vary %1</source>
        <translation>%1 ändern</translation>
    </message>
    <message>
        <source>Vary one field less</source>
        <translation>Ein Feld weniger ändern</translation>
    </message>
    <message>
        <source>Video (*.webm)</source>
        <translation>Video (*.webm)</translation>
    </message>
    <message>
        <source>View %1</source>
        <translation>Ansicht %1</translation>
    </message>
    <message>
        <source>View taken anew</source>
        <translation>Ansicht neu aufgenommen</translation>
    </message>
    <message>
        <source>Views of a section</source>
        <translation>Ansichten eines Abschnitts</translation>
    </message>
    <message>
        <source>Volume</source>
        <translation>Volumen</translation>
    </message>
    <message>
        <source>WATCHES</source>
        <translation>MESSWERTE</translation>
    </message>
    <message>
        <source>WHAT THIS CASE CHANGES</source>
        <translation>WAS DIESER FALL ÄNDERT</translation>
    </message>
    <message>
        <source>Watch</source>
        <translation>Messwert</translation>
    </message>
    <message>
        <source>Watch %1</source>
        <translation>%1 beobachten</translation>
    </message>
    <message>
        <source>Watch a temperature first.</source>
        <translation>Beobachten Sie zuerst eine Temperatur.</translation>
    </message>
    <message>
        <source>Watch along the other axis of the chart</source>
        <translation>Messwert an der anderen Achse des Diagramms</translation>
    </message>
    <message>
        <source>Watch another figure; it is read from the stored result at once</source>
        <translation>Einen weiteren Kennwert beobachten; er wird sofort aus dem gespeicherten Ergebnis gelesen</translation>
    </message>
    <message>
        <source>Watch in the chart</source>
        <translation>Messwert im Diagramm</translation>
    </message>
    <message>
        <source>Watch the labels</source>
        <translation>Die Beschriftungen beobachten</translation>
    </message>
    <message>
        <source>Watch the volume above</source>
        <translation>Das Volumen darüber beobachten</translation>
    </message>
    <message>
        <source>Watch the volume above the level</source>
        <translation>Das Volumen über dem Niveau beobachten</translation>
    </message>
    <message>
        <source>Watches of a resistance</source>
        <translation>Messwerte eines Widerstands</translation>
    </message>
    <message>
        <source>Watches: the figures you care about, each with its limit and margin. Ctrl+Shift+W watches what is selected.</source>
        <translation>Messwerte: die Kennwerte, auf die es Ihnen ankommt, jeder mit Grenze und Reserve. Strg+Umschalt+W beobachtet, was gewählt ist.</translation>
    </message>
    <message>
        <source>Ways of the heat</source>
        <translation>Wege der Wärme</translation>
    </message>
    <message>
        <source>What came out</source>
        <translation>Was herauskam</translation>
    </message>
    <message>
        <source>What can be done with %1</source>
        <translation>Was mit %1 getan werden kann</translation>
    </message>
    <message>
        <source>What differs</source>
        <translation>Was sich unterscheidet</translation>
    </message>
    <message>
        <source>What differs (here → on the disk):
%1</source>
        <translation>Was sich unterscheidet (hier → auf der Platte):
%1</translation>
    </message>
    <message>
        <source>What edits count in</source>
        <translation>Worin Änderungen gelten</translation>
    </message>
    <message>
        <source>What if</source>
        <translation>Was wäre wenn</translation>
    </message>
    <message>
        <source>What if %1 were</source>
        <translation>Was wäre, wenn %1</translation>
    </message>
    <message>
        <source>What is drawn of the level</source>
        <translation>Was vom Niveau gezeichnet wird</translation>
    </message>
    <message>
        <source>What is missing or doubtful (F8)</source>
        <translation>Was fehlt oder zweifelhaft ist (F8)</translation>
    </message>
    <message>
        <source>What is needed is solved; then the report is made again.</source>
        <translation>Was nötig ist, wird gelöst; dann wird der Bericht neu gemacht.</translation>
    </message>
    <message>
        <source>What is set in the ledger from now on counts in each of them</source>
        <translation>Was ab jetzt in der Bilanz gesetzt wird, gilt in jedem von ihnen</translation>
    </message>
    <message>
        <source>What is shown</source>
        <translation>Was gezeigt wird</translation>
    </message>
    <message>
        <source>What it does</source>
        <translation>Was er tut</translation>
    </message>
    <message>
        <source>What it has of its own becomes a set, which it then takes</source>
        <translation>Was er selbst hat, wird ein Satz, den er dann nimmt</translation>
    </message>
    <message>
        <source>What it is made of: + adds a solid part; File → Take in geometry brings many.</source>
        <translation>Woraus es besteht: + fügt ein festes Teil hinzu; Datei → Geometrie hereinholen bringt viele.</translation>
    </message>
    <message>
        <source>What it watches, and what it is compared with</source>
        <translation>Was er beobachtet, und womit er verglichen wird</translation>
    </message>
    <message>
        <source>What stands on it keeps its place and is reported as not ready</source>
        <translation>Was darauf steht, behält seinen Platz und wird als nicht bereit gemeldet</translation>
    </message>
    <message>
        <source>What the level is</source>
        <translation>Wovon das Niveau ist</translation>
    </message>
    <message>
        <source>What the report tells of</source>
        <translation>Wovon der Bericht erzählt</translation>
    </message>
    <message>
        <source>What the solver does</source>
        <translation>Was der Löser tut</translation>
    </message>
    <message>
        <source>What varies</source>
        <translation>Was sich ändert</translation>
    </message>
    <message>
        <source>What varies and what is asked</source>
        <translation>Was sich ändert und was gefragt ist</translation>
    </message>
    <message>
        <source>What was set</source>
        <translation>Was gesetzt war</translation>
    </message>
    <message>
        <source>What you set counts in %1 alone.</source>
        <translation>Was Sie setzen, gilt nur in %1.</translation>
    </message>
    <message>
        <source>What you set counts in the shown case alone</source>
        <translation>Was Sie setzen, gilt nur im gezeigten Fall</translation>
    </message>
    <message>
        <source>When</source>
        <translation>Wenn</translation>
    </message>
    <message>
        <source>Where does the heat go?</source>
        <translation>Wohin geht die Wärme?</translation>
    </message>
    <message>
        <source>Where heat enters: + adds a power in parts, a heat flux on a surface, the sun.</source>
        <translation>Wo Wärme hineingeht: + fügt eine Leistung in Teilen, eine Wärmestromdichte auf einer Oberfläche oder die Sonne hinzu.</translation>
    </message>
    <message>
        <source>Where heat leaves: + adds convection, radiation or a held temperature.</source>
        <translation>Wo Wärme hinausgeht: + fügt Konvektion, Strahlung oder eine gehaltene Temperatur hinzu.</translation>
    </message>
    <message>
        <source>Where is %1 now?</source>
        <translation>Wo ist %1 jetzt?</translation>
    </message>
    <message>
        <source>Where, or as set</source>
        <translation>Wo, oder wie gesetzt</translation>
    </message>
    <message>
        <source>Whether what you set counts in every case or in the shown one alone (Ctrl+Shift+E)</source>
        <translation>Ob, was Sie setzen, in jedem Fall gilt oder nur im gezeigten (Strg+Umschalt+E)</translation>
    </message>
    <message>
        <source>Which of its cases?</source>
        <translation>Welcher seiner Fälle?</translation>
    </message>
    <message>
        <source>Which one, how much, how sure? Press + to ask a question about the shown case.</source>
        <translation>Welches, wie viel, wie sicher? Drücken Sie +, um zum gezeigten Fall etwas zu fragen.</translation>
    </message>
    <message>
        <source>Which places? First line: x [mm]; y [mm]; z [mm]</source>
        <translation>Welche Orte? Erste Zeile: x [mm]; y [mm]; z [mm]</translation>
    </message>
    <message>
        <source>Which views of the project are shown; none chosen: all</source>
        <translation>Welche Ansichten des Projekts gezeigt werden; keine gewählt: alle</translation>
    </message>
    <message>
        <source>Who heats whom</source>
        <translation>Wer wen wärmt</translation>
    </message>
    <message>
        <source>Whole run</source>
        <translation>Ganzer Lauf</translation>
    </message>
    <message>
        <source>Width</source>
        <translation>Breite</translation>
    </message>
    <message>
        <source>Width across it</source>
        <translation>Breite quer dazu</translation>
    </message>
    <message>
        <source>With nodes on the edges: for answers that count. First order is a quick look.</source>
        <translation>Mit Knoten auf den Kanten: für Antworten, die zählen. Erste Ordnung ist ein schneller Blick.</translation>
    </message>
    <message numerus="yes">
        <source>Without the %n picked face(s)</source>
        <translation>
            <numerusform>Ohne die %n gewählte Fläche</numerusform>
            <numerusform>Ohne die %n gewählten Flächen</numerusform>
        </translation>
    </message>
    <message>
        <source>Words</source>
        <translation>Text</translation>
    </message>
    <message>
        <source>Words of a section</source>
        <translation>Text eines Abschnitts</translation>
    </message>
    <message>
        <source>Words of the name, group, comment, kind or state: “room failed”</source>
        <translation>Wörter aus Name, Gruppe, Bemerkung, Art oder Zustand: „Raum fehlgeschlagen“</translation>
    </message>
    <message>
        <source>Write the library…</source>
        <translation>Die Bibliothek schreiben…</translation>
    </message>
    <message>
        <source>Write the materials</source>
        <translation>Die Werkstoffe schreiben</translation>
    </message>
    <message>
        <source>Write the shapes</source>
        <translation>Die Formen schreiben</translation>
    </message>
    <message>
        <source>Write the shown case for other pro&amp;grams…</source>
        <translation>Den gezeigten Fall für andere &amp;Programme schreiben…</translation>
    </message>
    <message>
        <source>Write the shown case for other programs</source>
        <translation>Den gezeigten Fall für andere Programme schreiben</translation>
    </message>
    <message>
        <source>Write those of the project…</source>
        <translation>Die des Projekts schreiben…</translation>
    </message>
    <message>
        <source>Yield no longer</source>
        <translation>Nicht länger nachgeben</translation>
    </message>
    <message>
        <source>Your library holds no property set yet.</source>
        <translation>In Ihrer Bibliothek ist noch kein Wertesatz.</translation>
    </message>
    <message>
        <source>a direction</source>
        <translation>eine Richtung</translation>
    </message>
    <message>
        <source>a plane section</source>
        <translation>ein ebener Schnitt</translation>
    </message>
    <message>
        <source>a project to open (*.kiln)</source>
        <translation>ein Projekt, das geöffnet wird (*.kiln)</translation>
    </message>
    <message>
        <source>a rule fired</source>
        <translation>eine Regel griff</translation>
    </message>
    <message>
        <source>a stretch of time, more finely</source>
        <translation>eine Zeitspanne, feiner</translation>
    </message>
    <message>
        <source>a table</source>
        <translation>eine Tabelle</translation>
    </message>
    <message>
        <source>about z</source>
        <translation>um z</translation>
    </message>
    <message>
        <source>above z = 0</source>
        <translation>über z = 0</translation>
    </message>
    <message>
        <source>across (horizontal)</source>
        <translation>quer (waagerecht)</translation>
    </message>
    <message>
        <source>add a field: type a word of its name</source>
        <translation>ein Feld hinzufügen: ein Wort seines Namens eingeben</translation>
    </message>
    <message>
        <source>add a slider: type a word of its name</source>
        <translation>Regler hinzufügen: ein Wort seines Namens eingeben</translation>
    </message>
    <message>
        <source>add a value…</source>
        <translation>einen Wert hinzufügen…</translation>
    </message>
    <message>
        <source>air</source>
        <translation>Luft</translation>
    </message>
    <message>
        <source>also what is equal</source>
        <translation>auch was gleich ist</translation>
    </message>
    <message>
        <source>an instant</source>
        <translation>einen Zeitpunkt</translation>
    </message>
    <message>
        <source>and</source>
        <translation>und</translation>
    </message>
    <message numerus="yes">
        <source>and %n more</source>
        <translation>
            <numerusform>und %n weiterer</numerusform>
            <numerusform>und %n weitere</numerusform>
        </translation>
    </message>
    <message>
        <source>and is on for</source>
        <translation>und ist an für</translation>
    </message>
    <message>
        <source>and of the other</source>
        <translation>und der anderen</translation>
    </message>
    <message>
        <source>and stays for</source>
        <translation>und bleibt für</translation>
    </message>
    <message>
        <source>and y</source>
        <translation>und y</translation>
    </message>
    <message>
        <source>answered</source>
        <translation>beantwortet</translation>
    </message>
    <message>
        <source>any</source>
        <translation>beliebig</translation>
    </message>
    <message>
        <source>as shown</source>
        <translation>wie gezeigt</translation>
    </message>
    <message>
        <source>as the surface lies</source>
        <translation>wie die Oberfläche liegt</translation>
    </message>
    <message>
        <source>as they differ</source>
        <translation>wie sie sich unterscheiden</translation>
    </message>
    <message>
        <source>at</source>
        <translation>bei</translation>
    </message>
    <message>
        <source>at </source>
        <translation>bei </translation>
    </message>
    <message>
        <source>at %1</source>
        <translation>bei %1</translation>
    </message>
    <message>
        <source>at a time</source>
        <translation>gleichzeitig</translation>
    </message>
    <message>
        <source>auto</source>
        <translation>auto</translation>
    </message>
    <message>
        <source>automatic</source>
        <translation>selbsttätig</translation>
    </message>
    <message>
        <source>back (+y)</source>
        <translation>nach hinten (+y)</translation>
    </message>
    <message>
        <source>bevel edges</source>
        <translation>Kanten fasen</translation>
    </message>
    <message>
        <source>beyond them it</source>
        <translation>jenseits davon</translation>
    </message>
    <message>
        <source>building the shapes …</source>
        <translation>die Formen werden gebaut …</translation>
    </message>
    <message>
        <source>by</source>
        <translation>durch</translation>
    </message>
    <message>
        <source>by (120 K/h) or within (2 h)</source>
        <translation>mit (120 K/h) oder innerhalb (2 h)</translation>
    </message>
    <message>
        <source>by its height; or a face, e.g. lid.bottom</source>
        <translation>nach seiner Höhe; oder eine Fläche, z. B. lid.bottom</translation>
    </message>
    <message>
        <source>by this template</source>
        <translation>nach dieser Vorlage</translation>
    </message>
    <message>
        <source>cancelled</source>
        <translation>abgebrochen</translation>
    </message>
    <message>
        <source>choose parts</source>
        <translation>Teile wählen</translation>
    </message>
    <message>
        <source>choose…</source>
        <translation>wählen…</translation>
    </message>
    <message>
        <source>chosen by the program</source>
        <translation>vom Programm gewählt</translation>
    </message>
    <message>
        <source>clipboard</source>
        <translation>Zwischenablage</translation>
    </message>
    <message>
        <source>contact</source>
        <translation>Kontakt</translation>
    </message>
    <message>
        <source>contact, to the second part</source>
        <translation>Kontakt, zum zweiten Teil</translation>
    </message>
    <message>
        <source>contact; enters besides: %1</source>
        <translation>Kontakt; außerdem kommt herein: %1</translation>
    </message>
    <message>
        <source>cools by up to %1</source>
        <translation>kühlt mit bis zu %1</translation>
    </message>
    <message>
        <source>cut</source>
        <translation>abziehen</translation>
    </message>
    <message>
        <source>cut the model open along x, y or z</source>
        <translation>das Modell quer zu x, y oder z aufschneiden</translation>
    </message>
    <message>
        <source>divide face</source>
        <translation>Fläche teilen</translation>
    </message>
    <message>
        <source>done</source>
        <translation>fertig</translation>
    </message>
    <message>
        <source>down</source>
        <translation>nach unten</translation>
    </message>
    <message>
        <source>draw a rectangle in the scene from pixel to pixel and raise it</source>
        <translation>in der Szene ein Rechteck von Pixel zu Pixel zeichnen und anheben</translation>
    </message>
    <message>
        <source>end the run</source>
        <translation>den Lauf beenden</translation>
    </message>
    <message>
        <source>ended: %1</source>
        <translation>Ende: %1</translation>
    </message>
    <message>
        <source>estimate, exact</source>
        <translation>Schätzung, genau</translation>
    </message>
    <message>
        <source>estimate, within %1</source>
        <translation>Schätzung, auf %1 genau</translation>
    </message>
    <message>
        <source>every</source>
        <translation>alle</translation>
    </message>
    <message>
        <source>everything at one temperature</source>
        <translation>alles bei einer Temperatur</translation>
    </message>
    <message>
        <source>except</source>
        <translation>außer</translation>
    </message>
    <message>
        <source>faces of</source>
        <translation>Flächen von</translation>
    </message>
    <message>
        <source>facing %1 ±%2°</source>
        <translation>mit Blick nach %1 ±%2°</translation>
    </message>
    <message>
        <source>facing up ±20°</source>
        <translation>mit Blick nach oben ±20°</translation>
    </message>
    <message>
        <source>failed</source>
        <translation>fehlgeschlagen</translation>
    </message>
    <message>
        <source>failed: %1</source>
        <translation>fehlgeschlagen: %1</translation>
    </message>
    <message>
        <source>falls to</source>
        <translation>fällt auf</translation>
    </message>
    <message>
        <source>falls to %1</source>
        <translation>fällt auf %1</translation>
    </message>
    <message>
        <source>find cases</source>
        <translation>Fälle suchen</translation>
    </message>
    <message>
        <source>flow of </source>
        <translation>Strömung von </translation>
    </message>
    <message>
        <source>fold</source>
        <translation>zuklappen</translation>
    </message>
    <message>
        <source>for %1</source>
        <translation>für %1</translation>
    </message>
    <message>
        <source>from</source>
        <translation>von</translation>
    </message>
    <message>
        <source>from %1</source>
        <translation>ab %1</translation>
    </message>
    <message>
        <source>from here</source>
        <translation>von hier</translation>
    </message>
    <message>
        <source>from, to</source>
        <translation>von, nach</translation>
    </message>
    <message>
        <source>front (−y)</source>
        <translation>nach vorn (−y)</translation>
    </message>
    <message>
        <source>gap of </source>
        <translation>Spalt von </translation>
    </message>
    <message>
        <source>give it a value of its own…</source>
        <translation>einen eigenen Wert geben…</translation>
    </message>
    <message>
        <source>give up</source>
        <translation>nachgeben</translation>
    </message>
    <message>
        <source>gives in all</source>
        <translation>gibt insgesamt</translation>
    </message>
    <message>
        <source>grid %1 mm</source>
        <translation>Raster %1 mm</translation>
    </message>
    <message>
        <source>h follows the surface temperature during the solve.</source>
        <translation>h folgt der Oberflächentemperatur, während gelöst wird.</translation>
    </message>
    <message>
        <source>h(T)</source>
        <translation>h(T)</translation>
    </message>
    <message>
        <source>has no such field</source>
        <translation>hat kein solches Feld</translation>
    </message>
    <message>
        <source>heat balance error %1</source>
        <translation>Fehler der Wärmebilanz %1</translation>
    </message>
    <message>
        <source>heat in</source>
        <translation>Wärme hinein</translation>
    </message>
    <message>
        <source>heats by up to %1</source>
        <translation>erwärmt sich mit bis zu %1</translation>
    </message>
    <message>
        <source>held at </source>
        <translation>gehalten auf </translation>
    </message>
    <message>
        <source>holds</source>
        <translation>hält sie</translation>
    </message>
    <message>
        <source>in %1 · out %2 · stored %3</source>
        <translation>hinein %1 · hinaus %2 · gespeichert %3</translation>
    </message>
    <message>
        <source>in a ring</source>
        <translation>im Ring</translation>
    </message>
    <message>
        <source>in a row</source>
        <translation>in einer Reihe</translation>
    </message>
    <message>
        <source>in no part</source>
        <translation>in keinem Teil</translation>
    </message>
    <message>
        <source>in time ●</source>
        <translation>in der Zeit ●</translation>
    </message>
    <message>
        <source>in time…</source>
        <translation>in der Zeit…</translation>
    </message>
    <message>
        <source>insulated by default</source>
        <translation>ohne Angabe gedämmt</translation>
    </message>
    <message>
        <source>insulated: left over</source>
        <translation>gedämmt: übrig</translation>
    </message>
    <message>
        <source>insulated: no condition is set (%1)</source>
        <translation>gedämmt: keine Bedingung ist gesetzt (%1)</translation>
    </message>
    <message>
        <source>into %1</source>
        <translation>in %1</translation>
    </message>
    <message>
        <source>is zero</source>
        <translation>ist sie null</translation>
    </message>
    <message>
        <source>it</source>
        <translation>er</translation>
    </message>
    <message>
        <source>it is being read</source>
        <translation>es wird gelesen</translation>
    </message>
    <message>
        <source>its comment</source>
        <translation>seine Bemerkung</translation>
    </message>
    <message>
        <source>its end</source>
        <translation>sein Ende</translation>
    </message>
    <message>
        <source>its faces are counted when the shapes are built</source>
        <translation>ihre Flächen werden gezählt, wenn die Formen gebaut sind</translation>
    </message>
    <message>
        <source>its group</source>
        <translation>seine Gruppe</translation>
    </message>
    <message>
        <source>its own values</source>
        <translation>seine eigenen Werte</translation>
    </message>
    <message>
        <source>its property sets</source>
        <translation>seine Wertesätze</translation>
    </message>
    <message>
        <source>join</source>
        <translation>verbinden</translation>
    </message>
    <message>
        <source>k from</source>
        <translation>k von</translation>
    </message>
    <message>
        <source>k, W/(m·K)</source>
        <translation>k, W/(m·K)</translation>
    </message>
    <message>
        <source>largest: %1%2</source>
        <translation>größte: %1%2</translation>
    </message>
    <message>
        <source>later by</source>
        <translation>später um</translation>
    </message>
    <message>
        <source>left (−x)</source>
        <translation>nach links (−x)</translation>
    </message>
    <message>
        <source>light or dark for this session</source>
        <translation>hell oder dunkel für diese Sitzung</translation>
    </message>
    <message>
        <source>lines</source>
        <translation>Geraden</translation>
    </message>
    <message>
        <source>lower limit</source>
        <translation>untere Grenze</translation>
    </message>
    <message>
        <source>lumped node</source>
        <translation>Einzelknoten</translation>
    </message>
    <message>
        <source>make a report into this file and leave</source>
        <translation>einen Bericht in diese Datei schreiben und enden</translation>
    </message>
    <message>
        <source>max</source>
        <translation>max</translation>
    </message>
    <message>
        <source>mean %1 · max %2</source>
        <translation>Mittel %1 · größte %2</translation>
    </message>
    <message>
        <source>mesh and solution</source>
        <translation>Netz und Lösung</translation>
    </message>
    <message>
        <source>mesh of %1</source>
        <translation>Netz von %1</translation>
    </message>
    <message>
        <source>min</source>
        <translation>min</translation>
    </message>
    <message numerus="yes">
        <source>minus %n by hand</source>
        <translation>
            <numerusform>ohne %n von Hand</numerusform>
            <numerusform>ohne %n von Hand</numerusform>
        </translation>
    </message>
    <message>
        <source>much wider than thick</source>
        <translation>viel breiter als dick</translation>
    </message>
    <message>
        <source>name of the project</source>
        <translation>Name des Projekts</translation>
    </message>
    <message>
        <source>near a point</source>
        <translation>nahe einem Punkt</translation>
    </message>
    <message>
        <source>never run</source>
        <translation>nie gelaufen</translation>
    </message>
    <message>
        <source>new surface…</source>
        <translation>neue Oberfläche…</translation>
    </message>
    <message>
        <source>no enclosure</source>
        <translation>kein Hohlraum</translation>
    </message>
    <message>
        <source>no exchange</source>
        <translation>kein Austausch</translation>
    </message>
    <message>
        <source>no material</source>
        <translation>kein Werkstoff</translation>
    </message>
    <message>
        <source>no surfaces</source>
        <translation>keine Oberflächen</translation>
    </message>
    <message>
        <source>no value</source>
        <translation>kein Wert</translation>
    </message>
    <message>
        <source>none</source>
        <translation>keine</translation>
    </message>
    <message>
        <source>none: heat per metre</source>
        <translation>keine: Wärme je Meter</translation>
    </message>
    <message>
        <source>none; the materials' typical emissivities count</source>
        <translation>keine; die üblichen Emissionsgrade der Werkstoffe zählen</translation>
    </message>
    <message>
        <source>not asked yet</source>
        <translation>noch nicht gefragt</translation>
    </message>
    <message>
        <source>not found: %1</source>
        <translation>nicht gefunden: %1</translation>
    </message>
    <message>
        <source>not said what flow it is for</source>
        <translation>nicht gesagt, für welche Strömung</translation>
    </message>
    <message>
        <source>not set</source>
        <translation>nicht gesetzt</translation>
    </message>
    <message>
        <source>not solved yet</source>
        <translation>noch nicht gelöst</translation>
    </message>
    <message>
        <source>not yet</source>
        <translation>noch nicht</translation>
    </message>
    <message>
        <source>note</source>
        <translation>Notiz</translation>
    </message>
    <message>
        <source>nothing</source>
        <translation>nichts</translation>
    </message>
    <message>
        <source>nothing is said</source>
        <translation>nichts wird gesagt</translation>
    </message>
    <message>
        <source>nothing of this project matches it</source>
        <translation>nichts in diesem Projekt passt dazu</translation>
    </message>
    <message>
        <source>nothing waits</source>
        <translation>nichts wartet</translation>
    </message>
    <message>
        <source>nowhere in the parts</source>
        <translation>nirgends in den Teilen</translation>
    </message>
    <message>
        <source>of a case…</source>
        <translation>eines Falls…</translation>
    </message>
    <message>
        <source>of its last value. All times count from the start of the run.</source>
        <translation>seines letzten Werts. Alle Zeiten zählen ab Beginn des Laufs.</translation>
    </message>
    <message>
        <source>of this case instead of its own</source>
        <translation>dieses Falles statt seines eigenen</translation>
    </message>
    <message>
        <source>off, heat passes freely: %1</source>
        <translation>aus, Wärme geht frei hindurch: %1</translation>
    </message>
    <message>
        <source>off, it is</source>
        <translation>aus ist es</translation>
    </message>
    <message>
        <source>off: %1</source>
        <translation>aus: %1</translation>
    </message>
    <message>
        <source>on %1 % of the time, %2 switchings, %3</source>
        <translation>an %1 % der Zeit, %2 Schaltungen, %3</translation>
    </message>
    <message>
        <source>on %1, %2</source>
        <translation>an %1, %2</translation>
    </message>
    <message>
        <source>once</source>
        <translation>einmal</translation>
    </message>
    <message>
        <source>one part with %1</source>
        <translation>ein Teil mit %1</translation>
    </message>
    <message>
        <source>only %1</source>
        <translation>nur %1</translation>
    </message>
    <message>
        <source>only %1; of the others the mean</source>
        <translation>nur %1; von den anderen das Mittel</translation>
    </message>
    <message>
        <source>open the ledger row of this object</source>
        <translation>die Zeile dieses Objekts in der Bilanz öffnen</translation>
    </message>
    <message>
        <source>open the panel Picture beside the scene</source>
        <translation>die Tafel Bild neben der Szene öffnen</translation>
    </message>
    <message>
        <source>other programs first</source>
        <translation>andere Programme zuerst</translation>
    </message>
    <message>
        <source>out of date</source>
        <translation>veraltet</translation>
    </message>
    <message>
        <source>out of date · </source>
        <translation>veraltet · </translation>
    </message>
    <message>
        <source>out of date: %1</source>
        <translation>veraltet: %1</translation>
    </message>
    <message>
        <source>outside its range, %1</source>
        <translation>außerhalb seines Bereichs, %1</translation>
    </message>
    <message>
        <source>outside, into the part</source>
        <translation>außen, ins Teil</translation>
    </message>
    <message>
        <source>over its limit from %1, for %2</source>
        <translation>über seiner Grenze ab %1, für %2</translation>
    </message>
    <message>
        <source>page in the middle: 0 scene, 1 materials, 2 parameters, 3 surfaces</source>
        <translation>Seite in der Mitte: 0 Szene, 1 Werkstoffe, 2 Parameter, 3 Oberflächen</translation>
    </message>
    <message>
        <source>page of the strip: 0 time, 1 network, 2 numbers</source>
        <translation>Seite des Streifens: 0 Zeit, 1 Netzwerk, 2 Zahlen</translation>
    </message>
    <message>
        <source>part</source>
        <translation>Teil</translation>
    </message>
    <message>
        <source>part held at </source>
        <translation>Teil gehalten auf </translation>
    </message>
    <message>
        <source>part, hottest</source>
        <translation>Teil, heißeste Stelle</translation>
    </message>
    <message>
        <source>paused</source>
        <translation>Pause</translation>
    </message>
    <message>
        <source>peak %1 after %2</source>
        <translation>Spitze %1 nach %2</translation>
    </message>
    <message>
        <source>perfect</source>
        <translation>ideal</translation>
    </message>
    <message>
        <source>perfect, because not set</source>
        <translation>ideal, weil nicht gesetzt</translation>
    </message>
    <message>
        <source>perfect, because not set (%1)</source>
        <translation>ideal, weil nicht gesetzt (%1)</translation>
    </message>
    <message numerus="yes">
        <source>plus %n by hand</source>
        <translation>
            <numerusform>und %n von Hand</numerusform>
            <numerusform>und %n von Hand</numerusform>
        </translation>
    </message>
    <message>
        <source>point %1</source>
        <translation>Punkt %1</translation>
    </message>
    <message>
        <source>point held at </source>
        <translation>Punkt gehalten auf </translation>
    </message>
    <message>
        <source>power by a table</source>
        <translation>Leistung nach Tabelle</translation>
    </message>
    <message>
        <source>press this button, as pictures of dialogs need</source>
        <translation>diesen Knopf drücken, wie es Bilder von Dialogen brauchen</translation>
    </message>
    <message>
        <source>project: %1</source>
        <translation>Projekt: %1</translation>
    </message>
    <message>
        <source>push face</source>
        <translation>Fläche schieben</translation>
    </message>
    <message>
        <source>put the playhead at this time</source>
        <translation>den Abspielkopf auf diese Zeit setzen</translation>
    </message>
    <message>
        <source>r</source>
        <translation>r</translation>
    </message>
    <message>
        <source>radiation among </source>
        <translation>Strahlung zwischen </translation>
    </message>
    <message>
        <source>radiation over </source>
        <translation>Strahlung über </translation>
    </message>
    <message>
        <source>radiation to </source>
        <translation>Strahlung zu </translation>
    </message>
    <message>
        <source>raised by %1: click, or type a height</source>
        <translation>um %1 erhoben: klicken, oder eine Höhe eingeben</translation>
    </message>
    <message>
        <source>rays of </source>
        <translation>Strahlen von </translation>
    </message>
    <message>
        <source>reaches %1</source>
        <translation>erreicht %1</translation>
    </message>
    <message>
        <source>reaches no named surface</source>
        <translation>erreicht keine benannte Oberfläche</translation>
    </message>
    <message>
        <source>remove faces</source>
        <translation>Flächen entfernen</translation>
    </message>
    <message>
        <source>repeats</source>
        <translation>wiederholt sie</translation>
    </message>
    <message>
        <source>right (+x)</source>
        <translation>nach rechts (+x)</translation>
    </message>
    <message>
        <source>rises to</source>
        <translation>steigt auf</translation>
    </message>
    <message>
        <source>round edges</source>
        <translation>Kanten runden</translation>
    </message>
    <message>
        <source>running</source>
        <translation>läuft</translation>
    </message>
    <message>
        <source>running, %1 % (%2)</source>
        <translation>läuft, %1 % (%2)</translation>
    </message>
    <message>
        <source>runs</source>
        <translation>läuft</translation>
    </message>
    <message>
        <source>save a picture of the window to this file and leave</source>
        <translation>ein Bild des Fensters in diese Datei schreiben und enden</translation>
    </message>
    <message>
        <source>say the version, with those of the libraries</source>
        <translation>die Version nennen, mit denen der Bibliotheken</translation>
    </message>
    <message>
        <source>section</source>
        <translation>Schnitt</translation>
    </message>
    <message>
        <source>set</source>
        <translation>gesetzt</translation>
    </message>
    <message>
        <source>set %1 of %2 to</source>
        <translation>%1 von %2 setzen auf</translation>
    </message>
    <message>
        <source>set %1 to</source>
        <translation>%1 setzen auf</translation>
    </message>
    <message>
        <source>shapes drawn, not meshed yet (about %1 elements)</source>
        <translation>Formen gezeichnet, noch nicht vernetzt (etwa %1 Elemente)</translation>
    </message>
    <message>
        <source>show the compared case behind a line</source>
        <translation>den verglichenen Fall hinter einer Linie zeigen</translation>
    </message>
    <message>
        <source>show the compared case beside</source>
        <translation>den verglichenen Fall daneben zeigen</translation>
    </message>
    <message>
        <source>show this case</source>
        <translation>diesen Fall zeigen</translation>
    </message>
    <message>
        <source>show this question</source>
        <translation>diese Frage zeigen</translation>
    </message>
    <message>
        <source>show this view of the project: 1 for the first</source>
        <translation>diese Ansicht des Projekts zeigen: 1 ist die erste</translation>
    </message>
    <message>
        <source>show what is missing or doubtful</source>
        <translation>zeigen, was fehlt oder zweifelhaft ist</translation>
    </message>
    <message>
        <source>since the start</source>
        <translation>seit dem Beginn</translation>
    </message>
    <message>
        <source>size is the %1</source>
        <translation>Größe ist %1</translation>
    </message>
    <message>
        <source>skipped</source>
        <translation>übergangen</translation>
    </message>
    <message>
        <source>skipped: </source>
        <translation>übergangen: </translation>
    </message>
    <message>
        <source>smallest angle %1</source>
        <translation>kleinster Winkel %1</translation>
    </message>
    <message>
        <source>smooth</source>
        <translation>fließend</translation>
    </message>
    <message>
        <source>solid, in three dimensions</source>
        <translation>fest, in drei Dimensionen</translation>
    </message>
    <message>
        <source>solution</source>
        <translation>Lösung</translation>
    </message>
    <message>
        <source>solve to see it</source>
        <translation>lösen, um es zu sehen</translation>
    </message>
    <message>
        <source>solve when let go</source>
        <translation>beim Loslassen lösen</translation>
    </message>
    <message>
        <source>solved</source>
        <translation>gelöst</translation>
    </message>
    <message>
        <source>solver %1: It could not be started. Reinstall the program.</source>
        <translation>Löser %1: Er konnte nicht gestartet werden. Richten Sie das Programm neu ein.</translation>
    </message>
    <message>
        <source>solver: It was killed or crashed half-way. The project and older results are unchanged; solve again, or change the mesh size a little.</source>
        <translation>Löser: Er wurde beendet oder stürzte ab. Projekt und ältere Ergebnisse sind unverändert; lösen Sie noch einmal, oder ändern Sie die Netzgröße ein wenig.</translation>
    </message>
    <message>
        <source>speak this language for this session: en or de</source>
        <translation>in dieser Sitzung diese Sprache sprechen: en oder de</translation>
    </message>
    <message>
        <source>start, end and storing</source>
        <translation>Beginn, Ende und Speichern</translation>
    </message>
    <message>
        <source>starting</source>
        <translation>beginnt</translation>
    </message>
    <message>
        <source>steady</source>
        <translation>stationär</translation>
    </message>
    <message>
        <source>steady, %1</source>
        <translation>stationär, %1</translation>
    </message>
    <message>
        <source>steps</source>
        <translation>Stufen</translation>
    </message>
    <message>
        <source>stopped before its end</source>
        <translation>vor seinem Ende angehalten</translation>
    </message>
    <message>
        <source>stops the run</source>
        <translation>hält sie den Lauf an</translation>
    </message>
    <message>
        <source>sunk by %1: click, or type a depth below zero</source>
        <translation>um %1 versenkt: klicken, oder eine Tiefe unter null eingeben</translation>
    </message>
    <message>
        <source>surface %1</source>
        <translation>Oberfläche %1</translation>
    </message>
    <message>
        <source>surroundings</source>
        <translation>Umgebung</translation>
    </message>
    <message>
        <source>switch off %1</source>
        <translation>%1 ausschalten</translation>
    </message>
    <message>
        <source>switch on %1</source>
        <translation>%1 einschalten</translation>
    </message>
    <message>
        <source>switch on %1 again</source>
        <translation>%1 wieder einschalten</translation>
    </message>
    <message>
        <source>switched off: </source>
        <translation>ausgeschaltet: </translation>
    </message>
    <message numerus="yes">
        <source>table, %n point(s)</source>
        <translation>
            <numerusform>Tabelle, %n Punkt</numerusform>
            <numerusform>Tabelle, %n Punkte</numerusform>
        </translation>
    </message>
    <message>
        <source>temperatures of all parts</source>
        <translation>Temperaturen aller Teile</translation>
    </message>
    <message>
        <source>that are exposed</source>
        <translation>die frei liegen</translation>
    </message>
    <message>
        <source>the edge between %1 and %2</source>
        <translation>die Kante zwischen %1 und %2</translation>
    </message>
    <message>
        <source>the end of </source>
        <translation>das Ende von </translation>
    </message>
    <message>
        <source>the opening</source>
        <translation>die Öffnung</translation>
    </message>
    <message>
        <source>the project: all cases</source>
        <translation>das Projekt: alle Fälle</translation>
    </message>
    <message>
        <source>the same body as %1</source>
        <translation>derselbe Körper wie %1</translation>
    </message>
    <message>
        <source>the steady state of this case</source>
        <translation>der stationäre Zustand dieses Falls</translation>
    </message>
    <message>
        <source>then</source>
        <translation>dann</translation>
    </message>
    <message>
        <source>then to</source>
        <translation>dann auf</translation>
    </message>
    <message>
        <source>there is no other case to compare with</source>
        <translation>es gibt keinen anderen Fall zum Vergleichen</translation>
    </message>
    <message>
        <source>these %1 cases</source>
        <translation>diese %1 Fälle</translation>
    </message>
    <message>
        <source>thicken face</source>
        <translation>Fläche aufdicken</translation>
    </message>
    <message>
        <source>this case only: %1</source>
        <translation>nur dieser Fall: %1</translation>
    </message>
    <message>
        <source>through the hottest place</source>
        <translation>durch den heißesten Ort</translation>
    </message>
    <message>
        <source>through the middle</source>
        <translation>durch die Mitte</translation>
    </message>
    <message>
        <source>through the opening</source>
        <translation>durch die Öffnung</translation>
    </message>
    <message>
        <source>tilt face</source>
        <translation>Fläche neigen</translation>
    </message>
    <message>
        <source>times</source>
        <translation>mal</translation>
    </message>
    <message>
        <source>to</source>
        <translation>bis</translation>
    </message>
    <message>
        <source>to %1</source>
        <translation>bis %1</translation>
    </message>
    <message>
        <source>transient</source>
        <translation>instationär</translation>
    </message>
    <message>
        <source>turned about an axis</source>
        <translation>um eine Achse gedreht</translation>
    </message>
    <message>
        <source>unfold</source>
        <translation>aufklappen</translation>
    </message>
    <message>
        <source>until</source>
        <translation>bis</translation>
    </message>
    <message>
        <source>unused</source>
        <translation>unbenutzt</translation>
    </message>
    <message>
        <source>up</source>
        <translation>nach oben</translation>
    </message>
    <message>
        <source>up to 5 K</source>
        <translation>bis 5 K</translation>
    </message>
    <message>
        <source>upper limit</source>
        <translation>obere Grenze</translation>
    </message>
    <message>
        <source>values, with semicolons between them</source>
        <translation>Werte, mit Strichpunkten dazwischen</translation>
    </message>
    <message>
        <source>waits</source>
        <translation>wartet</translation>
    </message>
    <message>
        <source>watch</source>
        <translation>Messwert</translation>
    </message>
    <message>
        <source>water</source>
        <translation>Wasser</translation>
    </message>
    <message>
        <source>what it starts from</source>
        <translation>womit er beginnt</translation>
    </message>
    <message>
        <source>what lies in a box</source>
        <translation>was in einem Quader liegt</translation>
    </message>
    <message>
        <source>what starts otherwise…</source>
        <translation>was anders beginnt…</translation>
    </message>
    <message>
        <source>when a watch passes</source>
        <translation>wenn ein Messwert überschritten wird</translation>
    </message>
    <message>
        <source>when a watch passes a value</source>
        <translation>wenn ein Messwert einen Wert erreicht</translation>
    </message>
    <message>
        <source>when settled</source>
        <translation>wenn eingeschwungen</translation>
    </message>
    <message>
        <source>which report of the project</source>
        <translation>welcher Bericht des Projekts</translation>
    </message>
    <message>
        <source>white</source>
        <translation>weiß</translation>
    </message>
    <message>
        <source>whole model</source>
        <translation>ganzes Modell</translation>
    </message>
    <message>
        <source>width and height of the window, px: 1024x700</source>
        <translation>Breite und Höhe des Fensters, px: 1024x700</translation>
    </message>
    <message>
        <source>wire of </source>
        <translation>Draht aus </translation>
    </message>
    <message>
        <source>within (2 h), or at once</source>
        <translation>innerhalb (2 h), oder auf einmal</translation>
    </message>
    <message>
        <source>within a box</source>
        <translation>in einem Quader</translation>
    </message>
    <message>
        <source>within its range, %1</source>
        <translation>in seinem Bereich, %1</translation>
    </message>
    <message>
        <source>would settle at %1</source>
        <translation>schwänge sich ein bei %1</translation>
    </message>
    <message>
        <source>x</source>
        <translation>x</translation>
    </message>
    <message>
        <source>y</source>
        <translation>y</translation>
    </message>
    <message>
        <source>z</source>
        <translation>z</translation>
    </message>
    <message>
        <source>“%1” %2. The old value is kept.</source>
        <translation>„%1“ %2. Der alte Wert bleibt.</translation>
    </message>
    <message>
        <source>“%1” beside %2</source>
        <translation>„%1“ neben %2</translation>
    </message>
    <message>
        <source>“%1” has changes that are not saved.</source>
        <translation>„%1“ hat Änderungen, die nicht gespeichert sind.</translation>
    </message>
    <message>
        <source>“%1” is no length: type 40, 40 x 20, or 2 cm</source>
        <translation>„%1“ ist keine Länge: geben Sie 40, 40 x 20 oder 2 cm ein</translation>
    </message>
    <message>
        <source>“%1” was written by somebody else while it was open here.</source>
        <translation>„%1“ wurde von jemand anderem geschrieben, während es hier offen war.</translation>
    </message>
    <message>
        <source>… and %1 more</source>
        <translation>… und %1 weitere</translation>
    </message>
    <message>
        <source>⌀ %1: click, or type the diameter</source>
        <translation>⌀ %1: klicken, oder den Durchmesser eingeben</translation>
    </message>
    <message>
        <source>▲ %1</source>
        <translation>▲ %1</translation>
    </message>
    <message>
        <source>✓ Ready</source>
        <translation>✓ Bereit</translation>
    </message>
    <message>
        <source>✓ Up to date: %1, made %2.</source>
        <translation>✓ Auf dem Stand: %1, gemacht %2.</translation>
    </message>
    <message>
        <source>✕ %1</source>
        <translation>✕ %1</translation>
    </message>
    <message>
        <source>✗ Out of date: %1 (%2)</source>
        <translation>✗ Veraltet: %1 (%2)</translation>
    </message>
</context>
</TS>
