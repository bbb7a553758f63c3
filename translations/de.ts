<?xml version="1.0" encoding="utf-8"?>
<!DOCTYPE TS>
<TS version="2.1" language="de_DE" sourcelanguage="en"><context><name>oak_square</name>
<message><source>&#10;It is not there any more</source><translation>&#10;Ist nicht mehr da</translation></message>
<message><source>  (and {unread} more)</source><translation>  (und {unread} weitere)</translation></message>
<message><source> (and {rest})</source><translation> (und {rest})</translation></message>
<message><source> (looked at by samples)</source><translation> (in Stichproben betrachtet)</translation></message>
<message><source> (steps are {names})</source><translation> (Schritte sind {names})</translation></message>
<message><source> (units are {units})</source><translation> (Einheiten sind {units})</translation></message>
<message><source> ({amount:.3g}° from the world's)</source><translation> ({amount:.3g}° von denen der Welt)</translation></message>
<message><source> ({count} so far, Esc ends)</source><translation> (bisher {count}, Esc beendet)</translation></message>
<message><source> ({known}, or a fraction)</source><translation> ({known}, oder ein Bruchteil)</translation></message>
<message><source> The step that is being tried is not delivered until you keep it.</source><translation> Der Schritt im Versuch wird erst geliefert, wenn er behalten ist.</translation></message>
<message><source> and </source><translation> und </translation></message>
<message><source> and the </source><translation> und </translation></message>
<message><source> and {count} more</source><translation> und {count} weitere</translation></message>
<message><source> and {count} more files</source><translation> und {count} weitere Dateien</translation></message>
<message><source> and {count} more parts are</source><translation> und {count} weitere Teile sind</translation></message>
<message numerus="yes"><source> and {count} more places</source><translation><numerusform> und {count} weitere Stelle</numerusform><numerusform> und {count} weitere Stellen</numerusform></translation></message>
<message><source> is</source><translation> ist</translation></message>
<message><source> is usually</source><translation> misst meist</translation></message>
<message><source> of size {size:.3g}</source><translation> von der Größe {size:.3g}</translation></message>
<message><source> on {name}</source><translation> an {name}</translation></message>
<message><source> or </source><translation> oder </translation></message>
<message><source> to </source><translation> bis </translation></message>
<message><source> together</source><translation> zusammen</translation></message>
<message><source>'*{anchor}' stands inside what it names</source><translation>„*{anchor}“ steht in dem, was es benennt</translation></message>
<message><source>'by' and 'axes' go with 'at' or 'away'</source><translation>„by“ und „axes“ gehören zu „at“ oder „away“</translation></message>
<message><source>'mod' needs a module length (deliver.module in the sheet)</source><translation>„mod“ braucht eine Modullänge (deliver.module auf dem Blatt)</translation></message>
<message><source>'mod' needs a module length: set the module first, at the foot of the view</source><translation>„mod“ braucht eine Modullänge: zuerst das Modul festlegen, unten an der Ansicht</translation></message>
<message><source>'{axis}' is no signed axis (one of {axes})</source><translation>„{axis}“ ist keine Achse mit Vorzeichen (eine von {axes})</translation></message>
<message><source>'{body}…' is too long for a length</source><translation>„{body}…“ ist zu lang für eine Länge</translation></message>
<message><source>'{cell}' is no build: tall, flat or long, or nothing</source><translation>„{cell}“ ist kein Bau: tall, flat oder long, oder nichts</translation></message>
<message><source>'{each}' does not stand where it should</source><translation>„{each}“ steht nicht, wo es sollte</translation></message>
<message><source>'{file}' comes to nothing before that: {reason}</source><translation>„{file}“ wird davor zu nichts: {reason}</translation></message>
<message><source>'{file}' is left out of what moves together: {reason}</source><translation>„{file}“ bewegt sich nicht mit den anderen: {reason}</translation></message>
<message><source>'{file}' is not in the batch</source><translation>„{file}“ ist nicht im Stapel</translation></message>
<message><source>'{format}' is no format that this version writes</source><translation>„{format}“ ist kein Format, das diese Version schreibt</translation></message>
<message><source>'{getname}' changes its size with time, which is not carried in USD</source><translation>„{getname}“ ändert seine Größe mit der Zeit, was in USD nicht mitgenommen wird</translation></message>
<message><source>'{getname}' has normals for other corners than its own: none can be worked out</source><translation>„{getname}“ hat Normalen für andere Ecken als die eigenen: sie lassen sich nicht ermitteln</translation></message>
<message><source>'{getname}' is drawn as many instances, which can't be given a shape of their own</source><translation>„{getname}“ wird als viele Instanzen gezeichnet, denen sich keine eigene Form geben lässt</translation></message>
<message><source>'{getname}' is told in another file or variant, which stays as it is</source><translation>„{getname}“ steht in einer anderen Datei oder Variante, die bleibt, wie sie ist</translation></message>
<message><source>'{getname}' is told in several layers</source><translation>„{getname}“ steht in mehreren Layern</translation></message>
<message><source>'{getname}' is written as its variant '{name}: {getvariantselection}' has it</source><translation>„{getname}“ wird geschrieben, wie seine Variante „{name}: {getvariantselection}“ es hat</translation></message>
<message><source>'{getname}' lies inside an instance, whose parts are shared</source><translation>„{getname}“ liegt in einer Instanz, deren Teile gemeinsam sind</translation></message>
<message><source>'{getname}' moves with time, which is not carried in USD</source><translation>„{getname}“ bewegt sich mit der Zeit, was in USD nicht mitgenommen wird</translation></message>
<message><source>'{getpath}' counts {sum} corners and has {count}</source><translation>„{getpath}“ zählt {sum} Ecken und hat {count}</translation></message>
<message><source>'{getpath}' draws a prototype that is not there ({count} are)</source><translation>„{getpath}“ zeichnet ein Muster, das nicht da ist (es gibt {count})</translation></message>
<message><source>'{getpath}' draws instancers more than {_deepest} deep</source><translation>„{getpath}“ zeichnet Instanzgeber mehr als {_deepest} tief</translation></message>
<message><source>'{getpath}' has a face that names a vertex that is not there ({count} are)</source><translation>„{getpath}“ hat eine Fläche, die einen Eckpunkt nennt, der nicht da ist (es gibt {count})</translation></message>
<message><source>'{getpath}' has turns or scales that are not one for each of its instances</source><translation>„{getpath}“ hat Drehungen oder Skalierungen, die nicht eine je Instanz sind</translation></message>
<message><source>'{getpath}' has {count} positions for {count_2} instances</source><translation>„{getpath}“ hat {count} Positionen für {count_2} Instanzen</translation></message>
<message><source>'{hidden}'{more} not shown: neither measured, nor taken along into another format</source><translation>„{hidden}“{more} nicht gezeigt: weder vermessen noch in ein anderes Format mitgenommen</translation></message>
<message><source>'{json}' for {named}</source><translation>„{json}“ für {named}</translation></message>
<message><source>'{kind}' with {count} points is no measurement</source><translation>„{kind}“ mit {count} Punkten ist keine Messung</translation></message>
<message><source>'{length}' is no module</source><translation>„{length}“ ist kein Modul</translation></message>
<message><source>'{low_text}' is more than '{high_text}': the smaller comes first</source><translation>„{low_text}“ ist mehr als „{high_text}“: das Kleinere kommt zuerst</translation></message>
<message><source>'{match}' has more than one mark: write {replace}, with one at most</source><translation>„{match}“ hat mehr als ein Zeichen: {replace} schreiben, mit höchstens einem</translation></message>
<message><source>'{match}' may be {whole}.{rest} or {whole}{rest}: write which</source><translation>„{match}“ kann {whole},{rest} oder {whole}{rest} sein: schreiben, welches</translation></message>
<message><source>'{missing}' is missing: turn needs {_ways}</source><translation>„{missing}“ fehlt: turn braucht {_ways}</translation></message>
<message><source>'{name}' and '{to}' are not in the same scene</source><translation>„{name}“ und „{to}“ sind nicht in derselben Szene</translation></message>
<message><source>'{name}' and {count} more shapes are written as the meshes that they are drawn as</source><translation>„{name}“ und {count} weitere Formen werden als die Netze geschrieben, als die sie gezeichnet werden</translation></message>
<message><source>'{name}' can't be cut into pieces: it has {what}</source><translation>„{name}“ lässt sich nicht in Stücke teilen: Es hat {what}</translation></message>
<message><source>'{name}' can't be hung elsewhere in its layer: {why}</source><translation>„{name}“ lässt sich in seinem Layer nicht anderswo anhängen: {why}</translation></message>
<message><source>'{name}' carries a rotation of {turned:.4g}°</source><translation>„{name}“ trägt eine Drehung von {turned:.4g}°</translation></message>
<message><source>'{name}' carries a scale of {furthest:g}</source><translation>„{name}“ trägt eine Skalierung von {furthest:g}</translation></message>
<message><source>'{name}' carries a {channel}</source><translation>„{name}“ trägt: {channel}</translation></message>
<message><source>'{name}' has morph targets, which would no longer fit its vertices</source><translation>„{name}“ hat Morphziele, die nicht mehr zu seinen Eckpunkten passten</translation></message>
<message><source>'{name}' has no geometry to look for a mark on</source><translation>„{name}“ hat keine Geometrie, auf der eine Marke zu suchen wäre</translation></message>
<message><source>'{name}' has no geometry, so no points of a box</source><translation>„{name}“ hat keine Geometrie, also keine Punkte eines Kastens</translation></message>
<message><source>'{name}' has no material, and would take that of what it hangs from</source><translation>„{name}“ hat kein Material und nähme das des Knotens an, an dem es hängt</translation></message>
<message><source>'{name}' has no vertex {worst}: it has {count}</source><translation>„{name}“ hat keinen Eckpunkt {worst}: es hat {count}</translation></message>
<message><source>'{name}' has no {extent} to match</source><translation>„{name}“ hat nichts zum Angleichen: {extent}</translation></message>
<message><source>'{name}' has no {feature} there</source><translation>„{name}“ hat dort nichts davon: {feature}</translation></message>
<message><source>'{name}' in it is a link</source><translation>„{name}“ darin ist ein Verweis</translation></message>
<message><source>'{name}' in it is no plain file</source><translation>„{name}“ darin ist keine gewöhnliche Datei</translation></message>
<message><source>'{name}' is a piece of a piece: deliver it, and split what was delivered</source><translation>„{name}“ ist ein Stück eines Stücks: Liefern Sie es aus und teilen Sie das Ausgelieferte</translation></message>
<message><source>'{name}' is a subset of {kind}s, which can't be cut</source><translation>„{name}“ ist eine Teilmenge von „{kind}“, die sich nicht teilen lässt</translation></message>
<message><source>'{name}' is animated, and would hang from another node</source><translation>„{name}“ ist animiert und würde an einem anderen Knoten hängen</translation></message>
<message><source>'{name}' is drawn as many instances of one mesh, and its pieces would not be</source><translation>„{name}“ wird als viele Instanzen eines Netzes gezeichnet, und seine Stücke würden es nicht</translation></message>
<message><source>'{name}' is drawn as many instances of one mesh, which would all change</source><translation>„{name}“ wird als viele Instanzen eines Netzes gezeichnet, die sich alle änderten</translation></message>
<message><source>'{name}' is in another model of its package</source><translation>„{name}“ steht in einem anderen Modell seines Pakets</translation></message>
<message><source>'{name}' is in no scene of its own, so that it must hang from a node</source><translation>„{name}“ steht in keiner eigenen Szene und muss deshalb an einem Knoten hängen</translation></message>
<message><source>'{name}' is in one piece</source><translation>„{name}“ ist in einem Stück</translation></message>
<message><source>'{name}' is mirrored: its inside faces out</source><translation>„{name}“ ist gespiegelt: sein Inneres schaut nach außen</translation></message>
<message><source>'{name}' is placed once in the file for several parts, which need different geometry</source><translation>„{name}“ ist in der Datei einmal für mehrere Teile gesetzt, die verschiedene Geometrie brauchen</translation></message>
<message><source>'{name}' is placed once in the file for several parts, which would have to move apart</source><translation>„{name}“ ist in der Datei einmal für mehrere Teile gesetzt, die auseinanderrücken müssten</translation></message>
<message><source>'{name}' is scaled unevenly, and its axes would turn under that</source><translation>„{name}“ ist ungleich skaliert, und seine Achsen würden sich darunter drehen</translation></message>
<message><source>'{name}' is scaled unevenly, {factors}</source><translation>„{name}“ ist ungleich skaliert, {factors}</translation></message>
<message><source>'{name}' is sheared by {lean:.3g}°</source><translation>„{name}“ ist um {lean:.3g}° geschert</translation></message>
<message><source>'{name}' is the name of {count} assets ({found}, {found_2}…): give its path</source><translation>„{name}“ heißen {count} Modelle ({found}, {found_2} …): den Pfad angeben</translation></message>
<message><source>'{name}' lies inside an instance, whose parts are shared</source><translation>„{name}“ liegt in einer Instanz, deren Teile gemeinsam sind</translation></message>
<message><source>'{name}' of '{prim}' does not fit its mesh, and can't be cut</source><translation>„{name}“ von „{prim}“ passt nicht zu seinem Netz und lässt sich nicht teilen</translation></message>
<message><source>'{name}' of '{prim}' is laid on a shape by its drawing, and can't be laid on the mesh it would be</source><translation>„{name}“ von „{prim}“ legt erst die Darstellung auf die Form, und es lässt sich nicht auf das Netz legen, das daraus würde</translation></message>
<message><source>'{name}' shares its geometry with '{other}'{more}: name them too, or none of them</source><translation>„{name}“ teilt seine Geometrie mit „{other}“{more}: sie auch nennen, oder keines von ihnen</translation></message>
<message><source>'{name}' stands once in the file for several parts, which need different geometry</source><translation>„{name}“ steht in der Datei einmal für mehrere Teile, die verschiedene Geometrie brauchen</translation></message>
<message><source>'{name}' stands once in the file for several parts, which would have to change alike</source><translation>„{name}“ steht in der Datei einmal für mehrere Teile, die sich gleich ändern müssten</translation></message>
<message><source>'{name}' stands once in the file for several parts, which would have to move apart</source><translation>„{name}“ steht in der Datei einmal für mehrere Teile, die auseinanderrücken müssten</translation></message>
<message><source>'{name}' was changed while it was read: --resume does it again</source><translation>„{name}“ wurde geändert, während es gelesen wurde: --resume macht es noch einmal</translation></message>
<message><source>'{name}' would be left empty, which 3MF can't hold</source><translation>„{name}“ bliebe leer, was 3MF nicht fassen kann</translation></message>
<message><source>'{name}' would move by itself, and its clips can't say at what times</source><translation>„{name}“ würde sich von selbst bewegen, und seine Clips können nicht sagen, zu welchen Zeiten</translation></message>
<message><source>'{name}' would no longer follow the clips that it follows</source><translation>„{name}“ würde den Clips nicht mehr folgen, denen es folgt</translation></message>
<message><source>'{name}', a shape with a radius or size, is written as the mesh that it is drawn as</source><translation>„{name}“, eine Form mit Radius oder Größe, wird als das Netz geschrieben, als das sie gezeichnet wird</translation></message>
<message><source>'{onto}' has no geometry to be set onto</source><translation>„{onto}“ hat keine Geometrie, auf die zu setzen wäre</translation></message>
<message><source>'{order}' is no order of x, y and z (one of {_orders})</source><translation>„{order}“ ist keine Reihenfolge von x, y und z (eine von {_orders})</translation></message>
<message><source>'{parted}' is a joint of a skin, and would no longer hang from one root with the others</source><translation>„{parted}“ ist ein Gelenk eines Skins und hinge nicht mehr mit den anderen an einer Wurzel</translation></message>
<message><source>'{path}' and '{path_2}' would both be delivered as '{name}'</source><translation>„{path}“ und „{path_2}“ würden beide als „{name}“ geliefert</translation></message>
<message><source>'{path}' can't be opened to be referred to</source><translation>„{path}“ lässt sich nicht öffnen, um darauf zu verweisen</translation></message>
<message><source>'{path}' can't be read: {strerror}</source><translation>„{path}“ kann nicht gelesen werden: {strerror}</translation></message>
<message><source>'{path}' goes with it, and its folder leads out of the delivery</source><translation>„{path}“ geht mit, und sein Ordner führt aus der Lieferung hinaus</translation></message>
<message><source>'{path}' goes with it, and lies here with other contents for '{owner}', which stays: deliver them apart</source><translation>„{path}“ gehört dazu und liegt hier mit anderem Inhalt für „{owner}“, das bleibt: getrennt ausliefern</translation></message>
<message><source>'{path}' goes with it, and with '{owner}' with other contents: deliver them apart</source><translation>„{path}“ geht mit, und mit „{owner}“ mit anderem Inhalt: getrennt liefern</translation></message>
<message><source>'{path}' has nothing to refer to</source><translation>„{path}“ hat nichts, worauf zu verweisen wäre</translation></message>
<message><source>'{path}' holds something that is no number</source><translation>„{path}“ enthält etwas, das keine Zahl ist</translation></message>
<message><source>'{path}' is missing</source><translation>„{path}“ fehlt</translation></message>
<message><source>'{path}' is not the file that was delivered</source><translation>„{path}“ ist nicht die Datei, die geliefert wurde</translation></message>
<message><source>'{path}' is not the file that was to go along</source><translation>„{path}“ ist nicht die Datei, die mitgehen sollte</translation></message>
<message><source>'{path}' is there already with other contents, and goes with this model</source><translation>„{path}“ ist schon mit anderem Inhalt da und geht mit diesem Modell</translation></message>
<message><source>'{path}' leads out of the delivery</source><translation>„{path}“ führt aus der Lieferung hinaus</translation></message>
<message><source>'{path}' lies here, and is not of this delivery</source><translation>„{path}“ liegt hier und gehört nicht zu dieser Lieferung</translation></message>
<message><source>'{path}' would be delivered as a file where another needs a folder</source><translation>„{path}“ würde als Datei geliefert, wo ein anderes einen Ordner braucht</translation></message>
<message><source>'{said}' is missing</source><translation>„{said}“ fehlt</translation></message>
<message><source>'{said}' is not the file that was delivered</source><translation>„{said}“ ist nicht die Datei, die geliefert wurde</translation></message>
<message><source>'{said}' leads out of the delivery</source><translation>„{said}“ führt aus der Lieferung hinaus</translation></message>
<message><source>'{suffix}' is no format that is read</source><translation>„{suffix}“ ist kein Format, das gelesen wird</translation></message>
<message><source>'{text}' does not go from the larger unit to the smaller</source><translation>„{text}“ geht nicht von der größeren Einheit zur kleineren</translation></message>
<message><source>'{text}' has a number without its unit</source><translation>„{text}“ hat eine Zahl ohne ihre Einheit</translation></message>
<message><source>'{text}' is below nothing, and no extent is</source><translation>„{text}“ ist weniger als nichts, und keine Ausdehnung ist das</translation></message>
<message><source>'{text}' is no angle</source><translation>„{text}“ ist kein Winkel</translation></message>
<message><source>'{text}' is no angle in degrees</source><translation>„{text}“ ist kein Winkel in Grad</translation></message>
<message><source>'{text}' is no factor (write it like 0.5, *0.5, /2, 1:2 or 50%)</source><translation>„{text}“ ist kein Faktor (etwa so schreiben: 0.5, *0.5, /2, 1:2 oder 50%)</translation></message>
<message><source>'{text}' is no length (write it like 90 cm, 0.9 m or 5' 3 1/2")</source><translation>„{text}“ ist keine Länge (etwa so schreiben: 90 cm, 0.9 m oder 5' 3 1/2")</translation></message>
<message><source>'{text}' is no length: a length is a number, or text such as 90 cm</source><translation>„{text}“ ist keine Länge: eine Länge ist eine Zahl oder Text wie 90 cm</translation></message>
<message><source>'{text}' is no number</source><translation>„{text}“ ist keine Zahl</translation></message>
<message><source>'{text}' is no point: three lengths, such as 1.2 m, 0, -40 cm</source><translation>„{text}“ ist kein Punkt: drei Längen, etwa 1,2 m; 0; -40 cm</translation></message>
<message><source>'{text}' is no ratio: a ratio is two positive numbers, such as 1:12</source><translation>„{text}“ ist kein Maßstab: das sind zwei positive Zahlen, etwa 1:12</translation></message>
<message><source>'{text}' is not a finite factor</source><translation>„{text}“ ist kein endlicher Faktor</translation></message>
<message><source>'{text}' is not a finite length</source><translation>„{text}“ ist keine endliche Länge</translation></message>
<message><source>'{to}' is below what would hang from it</source><translation>„{to}“ ist unter dem, was daran hängen würde</translation></message>
<message><source>'{unit}' is no unit of length{hint}</source><translation>„{unit}“ ist keine Längeneinheit{hint}</translation></message>
<message><source>'{value}' is no plain file name: it lies in the delivery's own folder</source><translation>„{value}“ ist kein einfacher Dateiname: sie liegt im Ordner der Lieferung selbst</translation></message>
<message><source>'{value}' is no scene: its suffix is one of {_suffixes}</source><translation>„{value}“ ist keine Szene: seine Endung ist eine von {_suffixes}</translation></message>
<message><source>'{value}' is no unit to check for (units are {units})</source><translation>„{value}“ ist keine Einheit, auf die zu prüfen wäre (Einheiten sind {units})</translation></message>
<message><source>'{value}' is no unit{did_you_mean}</source><translation>„{value}“ ist keine Einheit{did_you_mean}</translation></message>
<message><source>'{value}' is no unit{hint}</source><translation>„{value}“ ist keine Einheit{hint}</translation></message>
<message><source>'{value}' is not one of {known}{did_you_mean}</source><translation>„{value}“ ist keines von {known}{did_you_mean}</translation></message>
<message><source>'{value}' takes nothing (a take is {_forms})</source><translation>„{value}“ nimmt nichts (zu nehmen ist {_forms})</translation></message>
<message><source>'{where}' is missing</source><translation>„{where}“ fehlt</translation></message>
<message><source>'{word}' is no side along the {name}{hint}</source><translation>„{word}“ ist keine Seite entlang {name}{hint}</translation></message>
<message><source>'{word}' needs a range of metres above nothing, the smaller first</source><translation>„{word}“ braucht einen Bereich in Metern über nichts, das Kleinere zuerst</translation></message>
<message><source>'{word}' takes nothing (a take is {_forms}){did_you_mean}</source><translation>„{word}“ nimmt nichts (zu nehmen ist {_forms}){did_you_mean}</translation></message>
<message><source>(none)</source><translation>(keiner)</translation></message>
<message><source>, --resume goes on</source><translation>, --resume macht weiter</translation></message>
<message><source>, about {centre}</source><translation>, Mitte: {centre}</translation></message>
<message><source>, and so do {count} more</source><translation>, und ebenso {count} weitere</translation></message>
<message><source>, and {count} more</source><translation>, und {count} weitere</translation></message>
<message><source>, as its folder; by itself another</source><translation>, wie sein Ordner; für sich allein etwas anderes</translation></message>
<message><source>, as {format}</source><translation>, als {format}</translation></message>
<message><source>, by {amount:.2g}°</source><translation>, um {amount:.2g}°</translation></message>
<message><source>, by {angle:.4g}°</source><translation>, um {angle:.4g}°</translation></message>
<message><source>, float32 steps {length}</source><translation>, float32-Stufen {length}</translation></message>
<message><source>, step {k} there</source><translation>, dort Schritt {k}</translation></message>
<message><source>, then </source><translation>, dann </translation></message>
<message><source>, then {after}</source><translation>, dann {after}</translation></message>
<message><source>, turned {turned:.4g}°</source><translation>, um {turned:.4g}° gedreht</translation></message>
<message><source>, which stood {amount:.3g}° from the world's</source><translation>, die {amount:.3g}° von denen der Welt abstanden</translation></message>
<message><source>, {amount:.0f} others</source><translation>, {amount:.0f} andere</translation></message>
<message><source>, {angle:.3g}° off its way</source><translation>, {angle:.3g}° neben seiner Richtung</translation></message>
<message><source>, {count} left out</source><translation>, {count} ausgelassen</translation></message>
<message><source>, {left:.0f} min left</source><translation>, noch {left:.0f} min</translation></message>
<message><source>, {left:.0f} s left</source><translation>, noch {left:.0f} s</translation></message>
<message><source>, {length} away</source><translation>, {length} entfernt</translation></message>
<message><source>, {length} off</source><translation>, {length} daneben</translation></message>
<message><source>, {not_so} not</source><translation>, {not_so} nicht</translation></message>
<message><source>, {outside} outside</source><translation>, {outside} außerhalb</translation></message>
<message><source>, {to_go} to go</source><translation>, noch {to_go}</translation></message>
<message><source>, {unreadable} not</source><translation>, {unreadable} nicht</translation></message>
<message><source>0, 0, 0 stays in place</source><translation>0, 0, 0 bleibt an Ort und Stelle</translation></message>
<message><source>1000 m and more</source><translation>1000 m und mehr</translation></message>
<message><source>3MF can't name a unit of {metres_per_unit:g} m: it is written in metres</source><translation>3MF kann eine Einheit von {metres_per_unit:g} m nicht nennen: es wird in Metern geschrieben</translation></message>
<message><source>3MF holds nothing below '{name}', which has geometry of its own</source><translation>3MF fasst nichts unter „{name}“, das eigene Geometrie hat</translation></message>
<message><source>90 cm, 5' 3", 5.2 m; or from what it is now: +4cm, *0.5, 50%</source><translation>90 cm, 5' 3", 5,2 m; oder von dem aus, was es ist: +4cm, *0,5, 50%</translation></message>
<message><source>: memory is limited to {mb} MB</source><translation>: der Speicher ist auf {mb} MB begrenzt</translation></message>
<message><source>; all of it is in {log}</source><translation>; alles davon steht in {log}</translation></message>
<message><source>; and {count} more</source><translation>; und {count} weitere</translation></message>
<message><source>; did you mean '{near}'?</source><translation>; gemeint vielleicht „{near}“?</translation></message>
<message><source>; front is {front} or the other way</source><translation>; vorn ist {front} oder die andere Richtung</translation></message>
<message><source>; give --replace or --resume, or another folder</source><translation>; --replace oder --resume angeben, oder einen anderen Ordner</translation></message>
<message><source>; it can't be read: {reason}</source><translation>; es kann nicht gelesen werden: {reason}</translation></message>
<message><source>; it is written anew, its aliases spelled out</source><translation>; es ist neu geschrieben, seine Verweise ausgeschrieben</translation></message>
<message><source>; its size is another</source><translation>; seine Größe ist eine andere</translation></message>
<message><source>; its size is still the same</source><translation>; seine Größe ist noch dieselbe</translation></message>
<message><source>; its size is {value}, and was {value_2}</source><translation>; seine Größe ist {value} und war {value_2}</translation></message>
<message><source>; no asset here is called {lost}</source><translation>; kein Modell hier heißt {lost}</translation></message>
<message><source>; not there any more: {gone}</source><translation>; nicht mehr da: {gone}</translation></message>
<message><source>; something else happens to {happens}</source><translation>; etwas anderes geschieht mit {happens}</translation></message>
<message><source>; what was delivered stands</source><translation>; was geliefert ist, steht</translation></message>
<message><source>; {assets} left out: refused, failed or still being worked out</source><translation>; ausgelassen, weil verweigert, gescheitert oder noch in Arbeit: {assets}</translation></message>
<message numerus="yes"><source>&lt;b&gt;{count}&lt;/b&gt; assets: {title}</source><translation><numerusform>&lt;b&gt;{count}&lt;/b&gt; Modell: {title}</numerusform><numerusform>&lt;b&gt;{count}&lt;/b&gt; Modelle: {title}</numerusform></translation></message>
<message><source>&lt;polylist&gt; counts {sum} corners and has {count}</source><translation>&lt;polylist&gt; zählt {sum} Ecken und hat {count}</translation></message>
<message><source>&lt;{tag}&gt; has indices that are no whole number of corners</source><translation>&lt;{tag}&gt; hat Indizes, die keine ganze Zahl von Ecken sind</translation></message>
<message><source>&lt;{tag}&gt; needs {need} numbers</source><translation>&lt;{tag}&gt; braucht {need} Zahlen</translation></message>
<message><source>A `turn` step with the likeliest sides settles it.</source><translation>Ein Schritt `turn` mit den wahrscheinlichsten Seiten erledigt es.</translation></message>
<message><source>A `unit` step with the likeliest unit settles it.</source><translation>Ein Schritt `unit` mit der wahrscheinlichsten Einheit erledigt es.</translation></message>
<message><source>A bake that differs between them must split the mesh, and the file grows.</source><translation>Verschiedenes Einrechnen teilt das Netz auf, und die Datei wächst.</translation></message>
<message><source>A book that says what the included assets measure now, ± 2 %</source><translation>Ein Buch, das sagt, was die aufgenommenen Modelle jetzt messen, ± 2 %</translation></message>
<message><source>A check changes nothing. An asset for which it does not hold is not delivered.</source><translation>Eine Prüfung ändert nichts. Ein Modell, für das sie nicht gilt, wird nicht geliefert.</translation></message>
<message><source>A check on the sheet: size, channels, pivot, unit, as the team has agreed</source><translation>Eine Prüfung auf dem Blatt: Größe, Kanäle, Drehpunkt, Einheit, wie das Team es vereinbart hat</translation></message>
<message><source>A comment that travels with the step.</source><translation>Eine Bemerkung, die mit dem Schritt reist.</translation></message>
<message><source>A corner, edge middle, side middle or the centre of its box</source><translation>Eine Ecke, Kantenmitte, Seitenmitte oder die Mitte seines Kastens</translation></message>
<message><source>A datum has no size: take hold of what is selected</source><translation>Ein Bezug hat keine Größe: nach dem Ausgewählten greifen</translation></message>
<message><source>A delivery is under way: cancel it first, or wait for its end</source><translation>Eine Lieferung läuft: zuerst abbrechen oder ihr Ende abwarten</translation></message>
<message><source>A face: where it lies and how it tilts</source><translation>Eine Fläche: wo sie liegt und wie sie geneigt ist</translation></message>
<message><source>A fault of ours, please report it: {error}</source><translation>Ein Fehler von uns, bitte melden: {error}</translation></message>
<message><source>A fault of ours, please report it: {error}{where}</source><translation>Ein Fehler von uns, bitte melden: {error}{where}</translation></message>
<message><source>A few letters of an action, a means, an asset, a part, a finding…</source><translation>Ein paar Buchstaben einer Handlung, eines Mittels, Modells, Teils, Befunds …</translation></message>
<message><source>A further pattern, last in the order</source><translation>Ein weiteres Muster, das letzte der Reihe</translation></message>
<message><source>A mark on what it is set onto</source><translation>Eine Marke an dem, worauf es gesetzt wird</translation></message>
<message><source>A mark, a datum, or another part's pivot, by its name</source><translation>Eine Marke, ein Bezug oder der Drehpunkt eines anderen Teils, nach seinem Namen</translation></message>
<message><source>A page (*.html);;A table (*.csv);;A document (*.json)</source><translation>Eine Seite (*.html);;Eine Tabelle (*.csv);;Ein Dokument (*.json)</translation></message>
<message><source>A part's name, or a glob.</source><translation>Der Name eines Teils, oder ein Muster.</translation></message>
<message><source>A part's own geometry; a group's with all below it</source><translation>Die eigene Geometrie eines Teils; bei einer Gruppe mit allem darunter</translation></message>
<message><source>A picked point, a mark, a datum, another's pivot; typed; or across the asset</source><translation>Ein gewählter Punkt, eine Marke, ein Bezug, der Drehpunkt eines anderen; getippt; oder quer hinüber</translation></message>
<message><source>A pivot has no size: take things with their geometry{key}</source><translation>Ein Drehpunkt hat keine Größe: die Dinge mit ihrer Geometrie nehmen{key}</translation></message>
<message><source>A point of {what} is not found again: take what is marked, or Shift for its numbers</source><translation>Ein solcher Punkt ({what}) ist nicht wiederzufinden: Markiertes nehmen, oder mit Umschalt seine Zahlen</translation></message>
<message><source>A point that has a name</source><translation>Ein Punkt, der einen Namen hat</translation></message>
<message><source>A quarter turn about {a}, {w}</source><translation>Eine Vierteldrehung um {a}, {w}</translation></message>
<message><source>A rim, or three points: diameter and centre</source><translation>Ein Rand oder drei Punkte: Durchmesser und Mitte</translation></message>
<message><source>A word to whoever reads the sheet; it changes nothing</source><translation>Ein Wort an alle, die das Blatt lesen; es ändert nichts</translation></message>
<message><source>A {kind} points nowhere: take an edge, a face or a circle</source><translation>{kind} zeigt nirgendwohin: eine Kante, eine Fläche oder einen Kreis nehmen</translation></message>
<message><source>About its own {a}</source><translation>Um das eigene {a}</translation></message>
<message><source>About {about}</source><translation>Mitte: {about}</translation></message>
<message><source>Add a row</source><translation>Eine Zeile dazu</translation></message>
<message><source>All as at first</source><translation>Alle wie am Anfang</translation></message>
<message><source>All extents follow in proportion.</source><translation>Alle Ausdehnungen folgen im Verhältnis.</translation></message>
<message><source>All keys</source><translation>Alle Tasten</translation></message>
<message><source>All keys on one sheet</source><translation>Alle Tasten auf einem Blatt</translation></message>
<message><source>All keys, on one sheet…</source><translation>Alle Tasten auf einem Blatt …</translation></message>
<message><source>All of them are sized by the one factor that makes the whole so long</source><translation>Alle werden mit dem einen Faktor skaliert, der das Ganze so lang macht</translation></message>
<message><source>All that hangs from it counts too</source><translation>Auch alles, was daran hängt, zählt</translation></message>
<message><source>All that is selected, as one. Enter keeps, Esc drops.</source><translation>Alles Ausgewählte als eins. Enter behält, Esc verwirft.</translation></message>
<message><source>All that was said is on a list</source><translation>Alles, was gesagt wurde, steht auf einer Liste</translation></message>
<message><source>All together, as one</source><translation>Alle zusammen, als eins</translation></message>
<message><source>Along and about datum {name}</source><translation>Entlang und um Bezug {name}</translation></message>
<message><source>Along its own axes</source><translation>Entlang der eigenen Achsen</translation></message>
<message><source>Along its parent's axes</source><translation>Entlang der Achsen des Elternknotens</translation></message>
<message><source>Along the axes of a datum</source><translation>Entlang der Achsen eines Bezugs</translation></message>
<message><source>Along the axes of a datum, by its name</source><translation>Entlang der Achsen eines Bezugs, nach seinem Namen</translation></message>
<message><source>Along the axes of what it hangs from</source><translation>Entlang der Achsen dessen, woran es hängt</translation></message>
<message><source>Along the delivery axes, from the origin</source><translation>Entlang der Lieferachsen, vom Ursprung aus</translation></message>
<message><source>Along the view</source><translation>Entlang der Ansicht</translation></message>
<message><source>Along the world's axes</source><translation>Entlang der Achsen der Welt</translation></message>
<message><source>Along the {e}</source><translation>Entlang: {e}</translation></message>
<message><source>Along which axes the box is measured.</source><translation>Entlang welcher Achsen der Kasten gemessen wird.</translation></message>
<message><source>Along {axes} axes</source><translation>Achsen: {axes}</translation></message>
<message><source>Along {w} of the world</source><translation>Entlang {w} der Welt</translation></message>
<message><source>An asset that refuses it goes on without it</source><translation>Ein Modell, das ihn verweigert, geht ohne ihn weiter</translation></message>
<message><source>An asset that refuses the step is delivered as if it were absent</source><translation>Ein Modell, das den Schritt verweigert, wird geliefert, als fehlte er</translation></message>
<message><source>An edge's length, a circle's radius, the root of a face's area, of the box's diagonal.</source><translation>Die Länge einer Kante, der Radius eines Kreises, die Wurzel eines Flächeninhalts, gemessen an der Diagonale des Kastens.</translation></message>
<message><source>Angle</source><translation>Winkel</translation></message>
<message><source>Angle step</source><translation>Winkelschritt</translation></message>
<message><source>Angle {a}</source><translation>Winkel {a}</translation></message>
<message><source>Angles in</source><translation>Winkel in</translation></message>
<message><source>Angles, degrees, of the rotation channel about the part's own axes; those not named stay.</source><translation>Winkel, in Grad, des Drehungskanals um die eigenen Achsen des Teils; nicht genannte bleiben.</translation></message>
<message><source>Another asset of the batch, or a part of this one: it is set onto a point of that</source><translation>Ein anderes Modell des Stapels oder ein Teil von diesem: es wird auf einen Punkt davon gesetzt</translation></message>
<message><source>Another…</source><translation>Andere …</translation></message>
<message><source>Any axis of the file may be up</source><translation>Jede Achse der Datei darf oben sein</translation></message>
<message><source>Anything turned below it is sheared, and normals light wrongly.</source><translation>Alles darunter Gedrehte wird geschert, und Normalen leuchten falsch.</translation></message>
<message><source>Applies to what you choose here; nothing is tried yet.</source><translation>Gilt für das, was hier gewählt wird; noch wird nichts versucht.</translation></message>
<message><source>Applies to {words}</source><translation>Gilt für {words}</translation></message>
<message><source>Apply to every asset of the batch, also of the next one</source><translation>Auf jedes Modell des Stapels anwenden, auch des nächsten</translation></message>
<message><source>Apply to the assets that are selected now</source><translation>Auf die jetzt ausgewählten Modelle anwenden</translation></message>
<message><source>Apply to the assets whose path or name fits a pattern</source><translation>Auf die Modelle anwenden, deren Pfad oder Name zu einem Muster passt</translation></message>
<message><source>Arrangement</source><translation>Anordnung</translation></message>
<message><source>Arrangement {name}</source><translation>Anordnung {name}</translation></message>
<message><source>Arrangement {name} is kept</source><translation>Anordnung {name} ist behalten</translation></message>
<message><source>As at first</source><translation>Wie am Anfang</translation></message>
<message><source>As deep as {match}</source><translation>So tief wie {match}</translation></message>
<message><source>As high as {match}</source><translation>So hoch wie {match}</translation></message>
<message><source>As it was at first</source><translation>Wie es am Anfang war</translation></message>
<message><source>As prepared</source><translation>Wie vorbereitet</translation></message>
<message><source>As received</source><translation>Wie erhalten</translation></message>
<message><source>As the file had them</source><translation>Wie die Datei sie hatte</translation></message>
<message><source>As wide as {match}</source><translation>So breit wie {match}</translation></message>
<message><source>Asset to match</source><translation>Modell zum Angleichen</translation></message>
<message><source>Assets that are left out</source><translation>Modelle, die ausgelassen werden</translation></message>
<message><source>Assets that this step leaves as they are: patterns on path or name</source><translation>Modelle, die dieser Schritt lässt, wie sie sind: Muster für Pfad oder Name</translation></message>
<message><source>At a point picked in the view</source><translation>An einem in der Ansicht gewählten Punkt</translation></message>
<message><source>At datum {name}</source><translation>An Bezug {name}</translation></message>
<message><source>At mark {mark}, {what}</source><translation>An Marke {mark}, {what}</translation></message>
<message><source>At the point that is copied</source><translation>Am kopierten Punkt</translation></message>
<message><source>At the same place as it: base onto base</source><translation>An denselben Ort: Unterseite auf Unterseite</translation></message>
<message><source>At the wrong unit it dwarfs the set or disappears in it, and physics and light fall-off go wrong with it.</source><translation>In der falschen Einheit überragt es den Aufbau oder verschwindet darin, und Physik und Lichtabfall gehen mit fehl.</translation></message>
<message><source>Away</source><translation>Weg</translation></message>
<message><source>Away: click what it moves away from</source><translation>Weg: anklicken, wovon es sich wegbewegt</translation></message>
<message><source>Back</source><comment>a step</comment><translation>Zurück</translation></message>
<message><source>Bake</source><translation>Einrechnen</translation></message>
<message><source>Bake rotation and scale</source><translation>Drehung und Skalierung einrechnen</translation></message>
<message><source>Bake: {what}</source><translation>Einrechnen: {what}</translation></message>
<message><source>Batch</source><translation>Stapel</translation></message>
<message><source>Because {why}.</source><translation>Weil: {why}.</translation></message>
<message><source>Before / After</source><translation>Vorher/Nachher</translation></message>
<message><source>Before and after</source><translation>Vorher und nachher</translation></message>
<message><source>Begin the picks anew</source><translation>Mit den Punkten neu anfangen</translation></message>
<message><source>Believe what the file says of itself</source><translation>Glauben, was die Datei von sich sagt</translation></message>
<message><source>Bench</source><translation>Werkbank</translation></message>
<message><source>Berth {berth} is at a mark: there is no one place beside it</source><translation>Liegeplatz {berth} ist an einer Marke: neben ihm ist kein einzelner Ort</translation></message>
<message><source>Berth: click where it shall be</source><translation>Liegeplatz: dorthin klicken, wo er sein soll</translation></message>
<message><source>Beside match, the extent that is matched; beside a factor or extents, their axes: world (the default), parent, own, or a datum's.</source><translation>Neben match die Ausdehnung, die angeglichen wird; neben einem Faktor oder Ausdehnungen deren Achsen: world (üblich), parent, own oder die eines Bezugs.</translation></message>
<message><source>Between the boxes, and between rows</source><translation>Zwischen den Kästen und zwischen den Reihen</translation></message>
<message><source>Between the boxes, and between rows.</source><translation>Zwischen den Kästen und zwischen den Reihen.</translation></message>
<message><source>Bottom onto the ground</source><translation>Auf den Boden</translation></message>
<message><source>Box point</source><translation>Kastenpunkt</translation></message>
<message><source>Bring a picked face, an edge or an axis onto a side, or square it up</source><translation>Eine gewählte Fläche, Kante oder Achse auf eine Seite bringen, oder rechtwinklig stellen</translation></message>
<message><source>Bring the bottom onto height 0.</source><translation>Die Unterseite auf Höhe 0 bringen.</translation></message>
<message><source>Bring what is selected to 0, several parts as one</source><translation>Ausgewähltes auf 0 bringen, mehrere Teile als eins</translation></message>
<message><source>Bring {what} to {where}</source><translation>{what} nach {where} bringen</translation></message>
<message><source>Bring: click a face, an edge or a circle</source><translation>Bringen: eine Fläche, Kante oder einen Kreis anklicken</translation></message>
<message><source>COLLADA can't name {up} up and {front} front: it is written in metres, Y up</source><translation>COLLADA kann nicht {up} oben und {front} vorn nennen: es wird in Metern geschrieben, Y oben</translation></message>
<message><source>Call {length} a {name}</source><translation>{length} nennen: {name}</translation></message>
<message><source>Callipers</source><translation>Schieblehre</translation></message>
<message><source>Cancel</source><translation>Abbrechen</translation></message>
<message><source>Centre: click a pivot, a corner, a circle; first another asset, to have it here</source><translation>Mittelpunkt: einen Drehpunkt, eine Ecke, einen Kreis anklicken; zuerst ein anderes Modell, um es hierher zu holen</translation></message>
<message><source>Centre: click what it turns about</source><translation>Mitte: anklicken, worum es sich dreht</translation></message>
<message><source>Centre: click what stays in place</source><translation>Mitte: anklicken, was an Ort und Stelle bleibt</translation></message>
<message><source>Change it all the same</source><translation>Trotzdem ändern</translation></message>
<message><source>Change the size book</source><translation>Das Maßbuch ändern</translation></message>
<message><source>Change {title}</source><translation>{title} ändern</translation></message>
<message><source>Channels</source><translation>Kanäle</translation></message>
<message><source>Check: {words}</source><translation>Prüfen: {words}</translation></message>
<message><source>Choose parts or groups above: an asset as a whole has no rotation of its own.</source><translation>Oben Teile oder Gruppen wählen: ein Modell im Ganzen hat keine eigene Drehung.</translation></message>
<message><source>Choose the folder</source><translation>Den Ordner wählen</translation></message>
<message><source>Circle: click three points of its rim</source><translation>Kreis: drei Punkte seines Randes anklicken</translation></message>
<message><source>Clean rotation and scale channels, take parts apart, give them another shape</source><translation>Kanäle von Drehung und Skalierung säubern, Teile zerlegen, ihnen eine andere Form geben</translation></message>
<message><source>Click a part or group to pick it; with Ctrl or Shift, several. Drag onto another to hang them from it</source><translation>Ein Teil oder eine Gruppe anklicken, um sie zu wählen; mit Strg oder Umschalt mehrere. Auf ein anderes ziehen hängt sie daran</translation></message>
<message><source>Click a point of the box; arrows and Page Up, Page Down walk it</source><translation>Einen Punkt des Kastens anklicken; Pfeile und Bild auf, Bild ab gehen durch</translation></message>
<message><source>Click and type the {extent} it shall have</source><translation>Klicken und eintippen, welches Maß es haben soll: {extent}</translation></message>
<message><source>Click several points, one after the other: the pivot goes to their mean</source><translation>Mehrere Punkte nacheinander anklicken: der Drehpunkt geht auf ihren Mittelwert</translation></message>
<message><source>Click three points of a rim: the pivot goes to the centre of their circle</source><translation>Drei Punkte eines Randes anklicken: der Drehpunkt geht auf die Mitte ihres Kreises</translation></message>
<message><source>Click to measure: spans, angles, circles, planes</source><translation>Klicken misst: Abstände, Winkel, Kreise, Ebenen</translation></message>
<message><source>Click to pick assets and parts, with Ctrl several; drag to frame several</source><translation>Klicken wählt Modelle und Teile, mit Strg mehrere; ziehen rahmt mehrere</translation></message>
<message><source>Click to select every asset that has it</source><translation>Ein Klick wählt jedes Modell aus, das es hat</translation></message>
<message><source>Click to take it as read; all that was said is on a list</source><translation>Klicken nimmt es als gelesen; alles, was gesagt wurde, steht auf einer Liste</translation></message>
<message><source>Close the batch</source><translation>Den Stapel schließen</translation></message>
<message><source>Colours as the desktop has them</source><translation>Farben wie auf dem Desktop</translation></message>
<message><source>Colours of the day</source><translation>Farben des Tages</translation></message>
<message><source>Colours of the night</source><translation>Farben der Nacht</translation></message>
<message><source>Columns</source><translation>Spalten</translation></message>
<message><source>Connected pieces; vertices at one position count as joined.</source><translation>Verbundene Stücke; Eckpunkte an einem Ort zählen als verbunden.</translation></message>
<message><source>Consequences</source><translation>Folgen</translation></message>
<message><source>Coordinates along</source><translation>Koordinaten entlang</translation></message>
<message><source>Coordinates in</source><translation>Koordinaten in</translation></message>
<message><source>Copied the way of {kind} of {whose}: {text}</source><translation>Richtung kopiert, {kind} von {whose}: {text}</translation></message>
<message><source>Copied {kind} of {whose}: {text}</source><translation>Kopiert, {kind} von {whose}: {text}</translation></message>
<message><source>Copy all</source><translation>Alles kopieren</translation></message>
<message><source>Copy the direction under the pointer</source><translation>Die Richtung unter dem Zeiger kopieren</translation></message>
<message><source>Copy the point under the pointer</source><translation>Den Punkt unter dem Zeiger kopieren</translation></message>
<message><source>Copy the whole measurement (Ctrl+C); click a number to copy that one</source><translation>Die ganze Messung kopieren (Strg+C); ein Klick auf eine Zahl kopiert diese</translation></message>
<message><source>Copy {exact}</source><translation>{exact} kopieren</translation></message>
<message><source>Datum</source><translation>Bezug</translation></message>
<message><source>Datum {datum} is put aside</source><translation>Bezug {datum} ist weggelegt</translation></message>
<message><source>Datum {name}</source><translation>Bezug {name}</translation></message>
<message><source>Datum: click an edge, a face or another point to line it up; Ctrl puts down one more  ·  Esc is done</source><translation>Bezug: zum Ausrichten eine Kante, Fläche oder einen anderen Punkt anklicken; Strg legt noch einen ab  ·  Esc beendet</translation></message>
<message><source>Datum: click where it shall stand  ·  Esc lays it down</source><translation>Bezug: dorthin klicken, wo er stehen soll  ·  Esc legt ihn weg</translation></message>
<message><source>Degrees about the delivery axes, X first, then Y, then Z.</source><translation>Grad um die Lieferachsen, zuerst X, dann Y, dann Z.</translation></message>
<message><source>Degrees about x, y, z, X first, then Y, then Z.</source><translation>Grad um x, y, z, zuerst X, dann Y, dann Z.</translation></message>
<message><source>Degrees about {a}</source><translation>Grad um {a}</translation></message>
<message><source>Degrees about {a}, right-handed</source><translation>Grad um {a}, rechtshändig</translation></message>
<message><source>Degrees about {a}; x first, then y, then z</source><translation>Grad um {a}; zuerst x, dann y, dann z</translation></message>
<message><source>Deliver</source><translation>Liefern</translation></message>
<message><source>Deliver again what failed, was refused or has changed; what stands and is whole stays</source><translation>Noch einmal liefern, was gescheitert, verweigert oder geändert ist; was steht und heil ist, bleibt</translation></message>
<message><source>Deliver and prove</source><translation>Liefern und beweisen</translation></message>
<message><source>Deliver into</source><translation>Liefern nach</translation></message>
<message><source>Deliver with unit {unit}, up axis {up}{form}</source><translation>Ausliefern mit Einheit {unit}, Hochachse {up}{form}</translation></message>
<message><source>Deliver, and prove it</source><translation>Liefern und beweisen</translation></message>
<message><source>Delivery folder</source><translation>Lieferordner</translation></message>
<message><source>Diagonal {length}</source><translation>Diagonale {length}</translation></message>
<message><source>Dial</source><translation>Drehscheibe</translation></message>
<message><source>Directions along the world's axes: 0, 1, 0 is up</source><translation>Richtungen entlang der Weltachsen: 0, 1, 0 ist oben</translation></message>
<message><source>Distance</source><translation>Abstand</translation></message>
<message><source>Distances and angles taken with the Dividers; make one a known length</source><translation>Abstände und Winkel, mit dem Zirkel genommen; einen auf eine bekannte Länge bringen</translation></message>
<message><source>Dividers</source><translation>Zirkel</translation></message>
<message><source>Dividers, {kind}: {asks}  ·  Esc lays them down</source><translation>Zirkel, {kind}: {asks}  ·  Esc legt ihn weg</translation></message>
<message><source>Do number {k} of the tray</source><translation>Nummer {k} der Ablage ausführen</translation></message>
<message><source>Do the rest</source><translation>Den Rest erledigen</translation></message>
<message><source>Done</source><translation>Fertig</translation></message>
<message><source>Drag to make the column wider or narrower</source><translation>Ziehen macht die Spalte breiter oder schmaler</translation></message>
<message><source>Drag, or Ctrl+Left and Ctrl+Right, to move it; Del takes it out</source><translation>Ziehen, oder Strg+Links und Strg+Rechts, bewegt es; Entf nimmt es heraus</translation></message>
<message><source>Drop  Esc</source><translation>Verwerfen  Esc</translation></message>
<message><source>Drop a folder of models here</source><translation>Einen Ordner mit Modellen hier ablegen</translation></message>
<message><source>Drop a folder of models here, or open one{key}</source><translation>Einen Ordner mit Modellen hier ablegen oder öffnen{key}</translation></message>
<message><source>Drop {title}</source><translation>{title} verwerfen</translation></message>
<message><source>Dropped into a set, it appears somewhere else than where it was put.</source><translation>In einen Aufbau gestellt, erscheint es anderswo als dort, wohin es gesetzt wurde.</translation></message>
<message><source>Dropped: {title}</source><translation>Verworfen: {title}</translation></message>
<message><source>Each group by itself, with all below it</source><translation>Jede Gruppe für sich, mit allem darunter</translation></message>
<message><source>Each of them gets this length</source><translation>Jedes von ihnen bekommt diese Länge</translation></message>
<message><source>Each part by itself</source><translation>Jedes Teil für sich</translation></message>
<message><source>Each sent to its own origin, how they stand to one another is lost. Placed together, it stays.</source><translation>Kommt jedes für sich an den Ursprung, geht verloren, wie sie zueinander stehen. Zusammen platziert bleibt es.</translation></message>
<message><source>Enter does it    ↑ ↓ walk    Ctrl+Enter puts it into the tray, or takes it out    Esc leaves</source><translation>Eingabe tut es    ↑ ↓    Strg+Eingabe: in die Ablage oder heraus    Esc beendet</translation></message>
<message><source>Enter keeps, Esc drops.</source><translation>Eingabe behält, Esc verwirft.</translation></message>
<message><source>Every file is as it was read</source><translation>Jede Datei ist, wie sie gelesen wurde</translation></message>
<message><source>Every model of the batch, with its real size and a mark for each stage that has something to settle. At the right stands what is not true of them, gravest first, and why that matters. Click a model to see it on the Bench; drag with the right button to look around it.</source><translation>Alle Modelle des Stapels, mit ihrer wirklichen Größe und einem Zeichen für jede Stufe, auf der etwas zu erledigen ist. Rechts steht, was an ihnen nicht stimmt, das Schwerste zuerst, und warum es zählt. Ein Klick auf ein Modell zeigt es auf der Werkbank; mit der rechten Taste lässt sich rundum schauen.</translation></message>
<message><source>Every pattern of it matches something here.</source><translation>Jedes seiner Muster trifft hier auf etwas zu.</translation></message>
<message><source>Every step may also carry `for`, `parts` (where it takes parts), `skip`, `paused`, `may-refuse`, `all` and `note`; they mean the same in all.</source><translation>Jeder Schritt kann außerdem `for`, `parts` (wo er Teile nimmt), `skip`, `paused`, `may-refuse`, `all` und `note` tragen; sie bedeuten überall dasselbe.</translation></message>
<message><source>Extent</source><translation>Ausdehnung</translation></message>
<message><source>Factor</source><translation>Faktor</translation></message>
<message><source>Factor along {a}</source><translation>Faktor entlang {a}</translation></message>
<message><source>Fenwick Lock, a made-up canal lock: in millimetres and inches, on its back, unbaked, hinged in the wrong place. The tour goes through it in five steps.</source><translation>Fenwick Lock, eine erfundene Kanalschleuse: in Millimetern und Zoll, auf dem Rücken, nicht eingerechnet, am falschen Ort angeschlagen. Der Rundgang führt in fünf Schritten hindurch.</translation></message>
<message><source>Fenwick Lock: a canal lock's models, with all that goes wrong in real ones</source><translation>Fenwick Lock: die Modelle einer Kanalschleuse, mit allem, was bei echten schiefgeht</translation></message>
<message><source>Files hold float32: out there neighbouring vertices snap to a coarse lattice, and edges jitter.</source><translation>Dateien halten float32: dort draußen rasten Nachbarpunkte auf ein grobes Gitter, und Kanten zittern.</translation></message>
<message><source>Files: {words}</source><translation>Dateien: {words}</translation></message>
<message><source>Filter nodes</source><translation>Knoten filtern</translation></message>
<message><source>Filter the batch</source><translation>Den Stapel filtern</translation></message>
<message><source>Filter the keys</source><translation>Die Tasten filtern</translation></message>
<message><source>Find</source><translation>Suchen</translation></message>
<message><source>Find anything</source><translation>Alles finden</translation></message>
<message><source>Find anything by a few letters</source><translation>Alles mit ein paar Buchstaben finden</translation></message>
<message><source>Five steps on the demo batch; Esc leaves it at any time</source><translation>Fünf Schritte am Demostapel; Esc beendet jederzeit</translation></message>
<message><source>For each asset the likeliest, also in the next batch; doubts are warned of</source><translation>Für jedes Modell das Wahrscheinlichste, auch im nächsten Stapel; vor Zweifeln wird gewarnt</translation></message>
<message><source>Forget a {kind}</source><translation>Messung vergessen: {kind}</translation></message>
<message><source>Forget arrangement {name}</source><translation>Anordnung {name} vergessen</translation></message>
<message><source>Forget it</source><translation>Vergessen</translation></message>
<message><source>Forget its name; the file stays</source><translation>Seinen Namen vergessen; die Datei bleibt</translation></message>
<message><source>Forget these picks</source><translation>Diese Punkte vergessen</translation></message>
<message><source>Forget what is tried; nothing changes (Esc)</source><translation>Den Versuch vergessen; nichts ändert sich (Esc)</translation></message>
<message><source>Forget {kind} {name}</source><translation>{kind} {name} vergessen</translation></message>
<message><source>Format of the files</source><translation>Format der Dateien</translation></message>
<message><source>Fractions of the part's box along width, height, depth.</source><translation>Bruchteile des Kastens des Teils entlang Breite, Höhe, Tiefe.</translation></message>
<message><source>Frame what is selected; twice: all</source><translation>Ausgewähltes rahmen; zweimal: alles</translation></message>
<message><source>From the low side of each part's box (left, bottom, back); left empty it is open there</source><translation>Von der unteren Seite des Kastens jedes Teils (links, unten, hinten); leer ist es dort offen</translation></message>
<message><source>Gap</source><translation>Abstand</translation></message>
<message><source>Give everything the keys that it had at first</source><translation>Allem die Tasten geben, die es am Anfang hatte</translation></message>
<message><source>Give it this key</source><translation>Diese Taste geben</translation></message>
<message><source>Give them coordinates: a frame's feet all to height 0</source><translation>Ihnen Koordinaten geben: alle Füße eines Rahmens auf Höhe 0</translation></message>
<message><source>Give what is chosen above the key that it had at first</source><translation>Dem oben Gewählten die Taste geben, die es am Anfang hatte</translation></message>
<message><source>Globs on node names; with a / in them on paths from the root, ** over levels. cask#2 is the second node called cask.</source><translation>Muster auf Namen von Knoten; mit einem / auf Pfade von der Wurzel, ** über Ebenen hinweg. fass#2 ist der zweite Knoten, der fass heißt.</translation></message>
<message><source>Globs on path or name; all that stand at no berth if not given.</source><translation>Muster für Pfad oder Name; alle, die an keinem Liegeplatz stehen, wenn nicht angegeben.</translation></message>
<message><source>Globs on the asset's path or name that win over for.</source><translation>Muster für Pfad oder Name des Modells, die vor for gehen.</translation></message>
<message><source>Globs on the asset's path or name.</source><translation>Muster für Pfad oder Name des Modells.</translation></message>
<message><source>Go on, and back, the way the work goes</source><translation>Weiter und zurück, wie die Arbeit geht</translation></message>
<message><source>Go to its stage with the step that settles it for all of them</source><translation>Zu seiner Stufe gehen, mit dem Schritt, der es für alle erledigt</translation></message>
<message><source>Go to {stage}</source><translation>Zur Stufe {stage} gehen</translation></message>
<message><source>Greatest {extent}</source><translation>Größte {extent}</translation></message>
<message><source>Half a turn about its own {a}</source><translation>Eine halbe Drehung um die eigene {a}</translation></message>
<message><source>Hang the part at the mean of the vertices that are taken; geometry stays</source><translation>Das Teil am Mittelwert der genommenen Eckpunkte aufhängen; die Geometrie bleibt</translation></message>
<message><source>Hang {names} from {where}</source><translation>{names} an {where} hängen</translation></message>
<message><source>Hangs the named nodes, with all below them, from another node, or from none.</source><translation>Hängt die genannten Knoten, mit allem darunter, an einen anderen Knoten, oder an keinen.</translation></message>
<message><source>Heights by powers of ten: from bolts to boats in one picture</source><translation>Höhen in Zehnerpotenzen: vom Bolzen bis zum Boot in einem Bild</translation></message>
<message><source>Here they only stand side by side: take them in their common box to measure across</source><translation>Hier stehen sie nur nebeneinander: zum Messen quer hinüber den gemeinsamen Kasten nehmen</translation></message>
<message><source>Hierarchy</source><translation>Hierarchie</translation></message>
<message><source>Hold a drag to that axis</source><translation>Ein Ziehen an diese Achse binden</translation></message>
<message><source>Hold the batch against no book</source><translation>Den Stapel an keinem Buch messen</translation></message>
<message><source>Hold the pointer over the face that shall lie on the ground</source><translation>Den Zeiger über die Fläche halten, die auf dem Boden liegen soll</translation></message>
<message><source>Holds the asset as it stands here against what the team has agreed.</source><translation>Misst das Modell, wie es hier steht, an dem, was das Team vereinbart hat.</translation></message>
<message><source>How each stands</source><translation>Wie jedes steht</translation></message>
<message><source>How far along {a}; the geometry stays</source><translation>Wie weit entlang {a}; die Geometrie bleibt</translation></message>
<message><source>How far apart the two picks shall be; all is sized with it</source><translation>Wie weit die zwei gewählten Punkte auseinander sein sollen; alles wird damit bemessen</translation></message>
<message><source>How far apart the two points shall be.</source><translation>Wie weit die zwei Punkte auseinander sein sollen.</translation></message>
<message><source>How far inward from that side: 4 cm, or a share of the extent: 25 %</source><translation>Wie weit von dieser Seite nach innen: 4 cm, oder ein Anteil der Ausdehnung: 25 %</translation></message>
<message><source>How far on from the centre; nearer where it is negative</source><translation>Wie weit von der Mitte weg; näher, wenn negativ</translation></message>
<message><source>How far they move along x, y, z.</source><translation>Wie weit sie sich entlang x, y, z bewegen.</translation></message>
<message><source>How far they move along {a}</source><translation>Wie weit sie sich entlang {a} bewegen</translation></message>
<message><source>How far to move along {a}</source><translation>Wie weit entlang {a} bewegt wird</translation></message>
<message><source>How long one unit of the file is, where it is none of these</source><translation>Wie lang eine Einheit der Datei ist, wenn sie keine von diesen ist</translation></message>
<message><source>How long one unit of the file's numbers is: 25.4 mm</source><translation>Wie lang eine Einheit der Zahlen in der Datei ist: 25,4 mm</translation></message>
<message><source>How long one {name} is</source><translation>Wie lang eines ist: {name}</translation></message>
<message><source>How many stand in a row; all if not given.</source><translation>Wie viele in einer Reihe stehen; alle, wenn nicht angegeben.</translation></message>
<message><source>How many stand in a row; all in one where it is 0</source><translation>Wie viele in einer Reihe stehen; bei 0 alle in einer</translation></message>
<message><source>How many times as large along {a}</source><translation>Wievielmal so groß entlang {a}</translation></message>
<message><source>How many times as large: 0.5, 50%, *2, /3</source><translation>Wievielmal so groß: 0,5, 50%, *2, /3</translation></message>
<message><source>How many times as large: one number, a ratio such as 1:12, or three along x, y, z.</source><translation>Wievielmal so groß: eine Zahl, ein Maßstab wie 1:12, oder drei entlang x, y, z.</translation></message>
<message><source>How near to that side: 2 cm, or a share of the extent: 5 %</source><translation>Wie nah an dieser Seite: 2 cm, oder ein Anteil der Ausdehnung: 5 %</translation></message>
<message><source>How near to the side: a length, or a share of the box's extent such as '2 %'.</source><translation>Wie nah an der Seite: eine Länge, oder ein Anteil der Ausdehnung des Kastens wie „2 %“.</translation></message>
<message><source>If refused, deliver the asset as if this step were absent.</source><translation>Wenn verweigert, das Modell liefern, als gäbe es diesen Schritt nicht.</translation></message>
<message><source>In each part's own frame, its scale included</source><translation>Im Rahmen jedes Teils selbst, samt seiner Skalierung</translation></message>
<message><source>In the order of the alphabet</source><translation>In der Reihenfolge des Alphabets</translation></message>
<message><source>In the way: {w}</source><translation>Im Weg: {w}</translation></message>
<message><source>Inset along the {extent}</source><translation>Einzug entlang: {extent}</translation></message>
<message><source>Is it as large as it should be?</source><translation>Ist es so groß, wie es sein soll?</translation></message>
<message><source>It does not seem to lie on its side or back.</source><translation>Es scheint nicht auf der Seite oder dem Rücken zu liegen.</translation></message>
<message><source>It goes into the geometry, not into scales.</source><translation>Es geht in die Geometrie, nicht in Skalierungen.</translation></message>
<message><source>It has no geometry to size</source><translation>Es hat keine Geometrie, die zu bemessen wäre</translation></message>
<message><source>It has no steps.</source><translation>Es hat keine Schritte.</translation></message>
<message><source>It is for no asset at all: type a pattern, or choose what it is for</source><translation>Es ist für gar kein Modell: ein Muster tippen oder wählen, wofür es ist</translation></message>
<message><source>It is refused everywhere: once more keeps it all the same, Esc drops it</source><translation>Er wird überall verweigert: noch einmal behält ihn trotzdem, Esc verwirft ihn</translation></message>
<message><source>It is {means}.</source><translation>Es gilt {means}.</translation></message>
<message><source>It names the parts or groups it is for</source><translation>Es nennt die Teile oder Gruppen, für die es ist</translation></message>
<message><source>It needs `parts`.</source><translation>Er braucht `parts`.</translation></message>
<message><source>It stands upright</source><translation>Es steht aufrecht</translation></message>
<message><source>It stays in place</source><translation>Es bleibt an Ort und Stelle</translation></message>
<message><source>It takes no `parts`.</source><translation>Er nimmt keine `parts`.</translation></message>
<message><source>It takes no vertex: choose others</source><translation>Es nimmt keinen Eckpunkt: andere wählen</translation></message>
<message><source>It was written down last on {at}, with all that can be undone.</source><translation>Zuletzt festgehalten am {at}, mit allem, was sich rückgängig machen lässt.</translation></message>
<message><source>It was written down last on {at}. Lines that can't be read: {lost}; what they told is missing here, and the file is kept.</source><translation>Zuletzt aufgeschrieben am {at}. Zeilen, die nicht zu lesen sind: {lost}; was sie sagten, fehlt hier, und die Datei wird aufgehoben.</translation></message>
<message><source>It would be delivered as an invisible model.</source><translation>Es würde als unsichtbares Modell geliefert.</translation></message>
<message><source>It would be set down lying, and every height typed for it would size the wrong extent.</source><translation>Es würde liegend abgesetzt, und jede dafür getippte Höhe würde die falsche Ausdehnung bemessen.</translation></message>
<message><source>Its bottom is at height 0</source><translation>Seine Unterseite ist auf Höhe 0</translation></message>
<message><source>Its bottom is at height 0.</source><translation>Seine Unterseite ist auf Höhe 0.</translation></message>
<message><source>Its centre of mass; of an open surface, the centre of the surface</source><translation>Sein Massenmittelpunkt; bei offener Oberfläche deren Mittelpunkt</translation></message>
<message><source>Its faces are still being worked out: again in a moment</source><translation>Seine Flächen werden noch ermittelt: gleich noch einmal</translation></message>
<message><source>Its files say themselves what they are.</source><translation>Ihre Dateien sagen selbst, was sie sind.</translation></message>
<message><source>Its files say themselves which side is up.</source><translation>Ihre Dateien sagen selbst, welche Seite oben ist.</translation></message>
<message><source>Its inside faces out: back faces are culled away and normals light from the wrong side.</source><translation>Sein Inneres schaut nach außen: Rückseiten fallen weg, und Normalen leuchten von der falschen Seite.</translation></message>
<message><source>Its lowest point is at height 0</source><translation>Sein tiefster Punkt ist auf Höhe 0</translation></message>
<message><source>Its name</source><translation>Der Name</translation></message>
<message><source>Its name, usda, usdc or glb.</source><translation>Ihr Name, usda, usdc oder glb.</translation></message>
<message><source>Its own axes do not agree with the world's: typed rotations start from a crooked zero.</source><translation>Seine eigenen Achsen stimmen nicht mit denen der Welt überein: getippte Drehungen beginnen bei einer schiefen Null.</translation></message>
<message><source>Its own geometry alone</source><translation>Nur die eigene Geometrie</translation></message>
<message><source>Its pivot</source><translation>Sein Drehpunkt</translation></message>
<message><source>Its pivot stays in place</source><translation>Sein Drehpunkt bleibt an Ort und Stelle</translation></message>
<message><source>Its {count} files have nothing in common.</source><translation>Ihre {count} Dateien haben nichts gemeinsam.</translation></message>
<message><source>Its {extent} is at least this</source><translation>Das Maß {extent} ist mindestens so groß</translation></message>
<message><source>Its {extent} is at most this</source><translation>Das Maß {extent} ist höchstens so groß</translation></message>
<message><source>Its {w} axis</source><translation>Seine Achse {w}</translation></message>
<message><source>Keep a step for each unit that all the evidence speaks for</source><translation>Einen Schritt für jede Einheit behalten, für die alle Belege sprechen</translation></message>
<message><source>Keep a step for each way of lying that all the evidence speaks for</source><translation>Einen Schritt für jede Lage behalten, für die alle Belege sprechen</translation></message>
<message numerus="yes"><source>Keep a step that says so for {count} files of this folder</source><translation><numerusform>Einen Schritt behalten, der das für {count} Datei dieses Ordners sagt</numerusform><numerusform>Einen Schritt behalten, der das für {count} Dateien dieses Ordners sagt</numerusform></translation></message>
<message><source>Keep as step  ⏎</source><translation>Als Schritt behalten  ⏎</translation></message>
<message><source>Keep everything still: no blinking, no sweeping</source><translation>Alles ruhig halten: kein Blinken, kein Schwenken</translation></message>
<message><source>Keep it here under a name</source><translation>Es hier unter einem Namen behalten</translation></message>
<message><source>Keep the change  ⏎</source><translation>Die Änderung behalten  ⏎</translation></message>
<message><source>Keep this arrangement as…</source><translation>Diese Anordnung behalten als …</translation></message>
<message><source>Keep what is tried</source><translation>Den Versuch behalten</translation></message>
<message><source>Keep {title}</source><translation>{title} behalten</translation></message>
<message><source>Kept as step {number}: {title}</source><translation>Als Schritt {number} behalten: {title}</translation></message>
<message><source>Keys</source><translation>Tasten</translation></message>
<message><source>Later</source><translation>Später</translation></message>
<message><source>Lay the face under the pointer on the ground</source><translation>Die Fläche unter dem Zeiger auf den Boden legen</translation></message>
<message><source>Least {extent}</source><translation>Kleinste {extent}</translation></message>
<message><source>Leave both</source><translation>Beides lassen</translation></message>
<message><source>Leave it</source><translation>Verwerfen</translation></message>
<message><source>Leave it; all stays as it is</source><translation>Ihn beenden; alles bleibt, wie es ist</translation></message>
<message><source>Leave out of the delivery</source><translation>Von der Lieferung ausnehmen</translation></message>
<message><source>Leave out {what}</source><translation>{what} auslassen</translation></message>
<message><source>Leave the other assets out, whose parts have the same names</source><translation>Die anderen Modelle auslassen, deren Teile dieselben Namen haben</translation></message>
<message><source>Leave the question for later; it stays in the Size panel</source><translation>Die Frage für später lassen; sie bleibt im Bereich Maß</translation></message>
<message><source>Leave the step out of the run, for every asset; it stays on the sheet</source><translation>Den Schritt im Lauf auslassen, für jedes Modell; auf dem Blatt bleibt er</translation></message>
<message><source>Leave the tour  Esc</source><translation>Rundgang beenden  Esc</translation></message>
<message><source>Leave what is selected out, or take it in</source><translation>Ausgewähltes auslassen oder aufnehmen</translation></message>
<message><source>Leave what was begun last</source><translation>Verlassen, was zuletzt begonnen wurde</translation></message>
<message><source>Left out of the delivery (tick it to take it in)</source><translation>Von der Lieferung ausgenommen (Haken setzen nimmt es auf)</translation></message>
<message><source>Left out of the run, kept on the sheet.</source><translation>Fehlt im Lauf, bleibt auf dem Blatt.</translation></message>
<message><source>Let it swing to and fro</source><translation>Hin und her schwingen lassen</translation></message>
<message><source>Let this key do what is chosen above</source><translation>Diese Taste das oben Gewählte tun lassen</translation></message>
<message><source>Let what is chosen above have no key</source><translation>Dem oben Gewählten keine Taste lassen</translation></message>
<message><source>Line up what was moved with what it was moved onto</source><translation>Bewegtes an dem ausrichten, worauf es bewegt wurde</translation></message>
<message><source>Line-up</source><translation>Aufstellung</translation></message>
<message><source>Location becomes 0; the pivot goes to the parent's origin</source><translation>Die Lage wird 0; der Drehpunkt geht zum Ursprung des Übergeordneten</translation></message>
<message><source>Longest {length}</source><translation>Längste {length}</translation></message>
<message><source>Look at the parts that stay as they are</source><translation>Die Teile ansehen, die bleiben, wie sie sind</translation></message>
<message><source>Look at {count} in doubt</source><translation>{count} zweifelhafte ansehen</translation></message>
<message><source>Look first</source><translation>Erst nachsehen</translation></message>
<message><source>Look for a sheet that is not listed</source><translation>Nach einem Blatt suchen, das nicht aufgeführt ist</translation></message>
<message><source>Look from the {word}</source><translation>Ansehen von: {word}</translation></message>
<message><source>Look from the {word}, flat and to scale; again, from the {other}</source><translation>Ansehen von: {word}, flach und maßstäblich; noch einmal, von: {other}</translation></message>
<message><source>Look it up: the manual first, then all else</source><translation>Nachschlagen: zuerst das Handbuch, dann alles andere</translation></message>
<message><source>Looks</source><translation>Aussehen</translation></message>
<message><source>Make an extent as long as another asset's</source><translation>Eine Ausdehnung so lang machen wie die eines anderen Modells</translation></message>
<message><source>Make berth {name}</source><translation>Liegeplatz {name} anlegen</translation></message>
<message><source>Make it from the batch</source><translation>Aus dem Stapel machen</translation></message>
<message><source>Make the {e} as long as the other's</source><translation>So lang machen wie beim anderen: {e}</translation></message>
<message><source>Make the {side} column {word}</source><translation>Spalte {side} {word} machen</translation></message>
<message><source>Make this length</source><translation>Auf diese Länge bringen</translation></message>
<message><source>Make what is taken as wide, high or deep, or so many times as large</source><translation>Das Genommene so breit, hoch oder tief machen, oder soundso viel mal so groß</translation></message>
<message><source>Makes the named channels of every, or every named, node identity, and lets it move.</source><translation>Macht die genannten Kanäle jedes, oder jedes genannten, Knotens zur Identität und lässt ihn sich bewegen.</translation></message>
<message><source>Makes the named channels of every, or every named, node identity; geometry takes up the difference.</source><translation>Macht die genannten Kanäle jedes, oder jedes genannten, Knotens zur Identität; die Geometrie übernimmt den Unterschied.</translation></message>
<message><source>Mark '{mark}'</source><translation>Marke „{mark}“</translation></message>
<message><source>Mark {name} is on no asset of this batch</source><translation>Marke {name} ist an keinem Modell dieses Stapels</translation></message>
<message><source>Match: click the asset to match, in the list or the view  ·  Esc leaves it</source><translation>Angleichen: das Modell anklicken, in der Liste oder der Ansicht  ·  Esc beendet</translation></message>
<message><source>Mean of picks: click a point</source><translation>Mittel der Wahl: einen Punkt anklicken</translation></message>
<message><source>Measure a {kind}</source><translation>Messen: {kind}</translation></message>
<message><source>Measured length {length}</source><translation>Gemessene Länge {length}</translation></message>
<message><source>Measured length: click its end</source><translation>Gemessene Länge: ihr Ende anklicken</translation></message>
<message><source>Measured length: click its start</source><translation>Gemessene Länge: ihren Anfang anklicken</translation></message>
<message><source>Measurements</source><translation>Messungen</translation></message>
<message><source>Mirrored across the middle of the asset's depth</source><translation>Gespiegelt an der Mitte der Tiefe des Modells</translation></message>
<message><source>Mirrored across the middle of the asset's height</source><translation>Gespiegelt an der Mitte der Höhe des Modells</translation></message>
<message><source>Models ({suffixes})</source><translation>Modelle ({suffixes})</translation></message>
<message><source>Most programs can't hold shear in a transform, and straighten it without a word.</source><translation>Die meisten Programme können Scherung nicht halten und begradigen sie ohne ein Wort.</translation></message>
<message><source>Move</source><translation>Bewegen</translation></message>
<message><source>Move a card along the sheet, a favourite along the tray</source><translation>Eine Karte auf dem Blatt bewegen, einen Favoriten in der Ablage</translation></message>
<message><source>Move and turn it by hand</source><translation>Von Hand bewegen und drehen</translation></message>
<message><source>Move berth {name}</source><translation>Liegeplatz {name} versetzen</translation></message>
<message><source>Move datum {name}</source><translation>Bezug {name} versetzen</translation></message>
<message><source>Move it left</source><translation>Nach links</translation></message>
<message><source>Move it right</source><translation>Nach rechts</translation></message>
<message><source>Move on by so much along x, y, z.</source><translation>Um soviel entlang x, y, z weiterbewegen.</translation></message>
<message><source>Move on from a centre by so much; nearer where it is negative.</source><translation>Um soviel von einer Mitte wegbewegen; näher, wenn negativ.</translation></message>
<message><source>Move one circle, edge or face onto another first, then line them up</source><translation>Zuerst einen Kreis, eine Kante oder Fläche auf eine andere bewegen, dann ausrichten</translation></message>
<message><source>Move some vertices: narrow a top, level feet; normals follow</source><translation>Einige Eckpunkte bewegen: oben verjüngen, Füße ebnen; Normalen folgen</translation></message>
<message><source>Move taken {a}</source><translation>Genommenes bewegen {a}</translation></message>
<message><source>Move them by a distance along each axis</source><translation>Sie um eine Strecke entlang jeder Achse bewegen</translation></message>
<message><source>Move to the left	Ctrl+Left</source><translation>Nach links	Strg+Links</translation></message>
<message><source>Move to the right	Ctrl+Right</source><translation>Nach rechts	Strg+Rechts</translation></message>
<message><source>Move what is selected along rails, or by a point of its own</source><translation>Ausgewähltes entlang von Schienen bewegen, oder an einem eigenen Punkt</translation></message>
<message><source>Move {a}</source><translation>Verschieben {a}</translation></message>
<message><source>Move {title} to place {place}</source><translation>{title} an Stelle {place} setzen</translation></message>
<message><source>Moves and turns pivots. Of an asset: the whole moves so that the point becomes the origin.</source><translation>Bewegt und dreht Drehpunkte. Bei einem Modell: das Ganze bewegt sich, sodass der Punkt zum Ursprung wird.</translation></message>
<message><source>Moves some vertices of the named parts, or of all; the others stay, and normals follow the faces.</source><translation>Bewegt einige Eckpunkte der genannten Teile, oder aller; die anderen bleiben, und Normalen folgen den Flächen.</translation></message>
<message><source>Moves the asset, or the named parts, as a whole.</source><translation>Bewegt das Modell, oder die genannten Teile, im Ganzen.</translation></message>
<message><source>Name it…</source><translation>Benennen …</translation></message>
<message><source>Name patterns</source><translation>Namensmuster</translation></message>
<message><source>Name the prep sheet</source><translation>Das Vorbereitungsblatt benennen</translation></message>
<message><source>Name the prep sheet…</source><translation>Vorbereitungsblatt benennen …</translation></message>
<message><source>Name the sheet {title}</source><translation>Das Blatt {title} nennen</translation></message>
<message><source>Name {kind}</source><translation>{kind} benennen</translation></message>
<message><source>Name {kind} {old} {new}</source><translation>{kind} {old} heißt nun {new}</translation></message>
<message><source>Named marks and datums</source><translation>Benannte Marken und Bezüge</translation></message>
<message><source>Nearer and further</source><translation>Näher und weiter</translation></message>
<message><source>Nearer to a centre, or further from it</source><translation>Näher zu einer Mitte oder weiter von ihr weg</translation></message>
<message><source>New berth</source><translation>Neuer Liegeplatz</translation></message>
<message><source>New files are written, opened again and held against what they should be; the ones that came in are never touched. Look first says what would happen without writing. That is all: the finder{key} has everything else.</source><translation>Neue Dateien werden geschrieben, wieder geöffnet und mit dem verglichen, was sie sein sollen; die hereingekommenen werden nie angerührt. „Erst nachsehen“ sagt, was geschähe, ohne zu schreiben. Das ist alles: den Rest hat die Suche{key}.</translation></message>
<message><source>Next</source><translation>Weiter</translation></message>
<message><source>No key</source><translation>Keine Taste</translation></message>
<message><source>No models there that are not open already</source><translation>Dort sind keine Modelle, die nicht schon offen sind</translation></message>
<message><source>No node carries a {name}</source><translation>Kein Knoten trägt: {name}</translation></message>
<message><source>No path holds these letters: Esc in the field above shows all again.</source><translation>Kein Pfad enthält diese Buchstaben: Esc im Feld darüber zeigt wieder alle.</translation></message>
<message><source>No set-out is on the sheet yet: change something here, or drag a model onto a berth. </source><translation>Noch ist kein Aufbau auf dem Blatt: hier etwas ändern oder ein Modell auf einen Liegeplatz ziehen. </translation></message>
<message><source>No sheet is on the shelf yet: what you open or save is listed here, and what you give a name stays.</source><translation>Noch ist kein Blatt im Regal: was geöffnet oder gespeichert wird, steht dann hier, und was einen Namen bekommt, bleibt.</translation></message>
<message><source>No side is certain yet</source><translation>Noch ist keine Seite sicher</translation></message>
<message><source>No step settles it: it is in the file itself.</source><translation>Kein Schritt erledigt es: es steckt in der Datei selbst.</translation></message>
<message><source>No step settles that; it is in the file itself</source><translation>Das erledigt kein Schritt; es steckt in der Datei selbst</translation></message>
<message><source>No step sizes along the view's axes: choose others at the foot</source><translation>Kein Schritt bemisst entlang der Achsen der Ansicht: unten andere wählen</translation></message>
<message><source>No unit is certain yet</source><translation>Noch ist keine Einheit sicher</translation></message>
<message><source>None yet</source><translation>Noch keine</translation></message>
<message><source>None yet: what you open is listed here.</source><translation>Noch keine: was geöffnet wird, steht dann hier.</translation></message>
<message><source>Not a berth: {why}</source><translation>Kein Liegeplatz: {why}</translation></message>
<message><source>Not a datum: {why}</source><translation>Kein Bezug: {why}</translation></message>
<message><source>Not a set-out: no berth '{missing}' is declared</source><translation>Kein Aufbau: ein Liegeplatz „{missing}“ ist nicht erklärt</translation></message>
<message><source>Not a set-out: {why}</source><translation>Kein Aufbau: {why}</translation></message>
<message><source>Not a step yet: {in_words}</source><translation>Noch kein Schritt: {in_words}</translation></message>
<message><source>Note</source><translation>Notiz</translation></message>
<message><source>Nothing can be measured or delivered from it.</source><translation>Nichts davon lässt sich messen oder liefern.</translation></message>
<message><source>Nothing has a name yet: pick a point, or put down a datum{key}</source><translation>Noch hat nichts einen Namen: einen Punkt wählen oder einen Bezug ablegen{key}</translation></message>
<message><source>Nothing is measured yet. What you measure is kept with the sheet.</source><translation>Noch ist nichts gemessen. Was gemessen wird, bleibt beim Blatt.</translation></message>
<message><source>Nothing is open. Drop a folder of models here, or open one{key}.</source><translation>Nichts ist offen. Einen Ordner mit Modellen hier ablegen oder öffnen{key}.</translation></message>
<message><source>Nothing is selected</source><translation>Nichts ist ausgewählt</translation></message>
<message><source>Nothing is taken any more</source><translation>Es ist nichts mehr genommen</translation></message>
<message><source>Nothing is taken whose mean that could be</source><translation>Es ist nichts genommen, dessen Mitte das sein könnte</translation></message>
<message><source>Nothing left to fix or check: Deliver is next.</source><translation>Nichts mehr zu beheben oder zu prüfen: als Nächstes Liefern.</translation></message>
<message><source>Nothing of that name. Fewer letters find more.</source><translation>Nichts heißt so. Weniger Buchstaben finden mehr.</translation></message>
<message><source>Nothing stands here yet: open a folder of models</source><translation>Hier steht noch nichts: einen Ordner mit Modellen öffnen</translation></message>
<message><source>Nothing to copy: hold the pointer of Pick over a point</source><translation>Nichts zu kopieren: den Zeiger des Wählers über einen Punkt halten</translation></message>
<message><source>Nothing to keep yet: choose what to do first</source><translation>Noch nichts zu behalten: zuerst wählen, was zu tun ist</translation></message>
<message><source>Nothing to keep: {why}</source><translation>Nichts zu behalten: {why}</translation></message>
<message><source>Nothing to line up yet: open a folder of models</source><translation>Noch nichts aufzustellen: einen Ordner mit Modellen öffnen</translation></message>
<message><source>Nothing to redo</source><translation>Nichts zu wiederholen</translation></message>
<message><source>Nothing to undo</source><translation>Nichts rückgängig zu machen</translation></message>
<message><source>Nothing was written, and nothing would be. Without what is in the way: {whole} of {count}.</source><translation>Nichts wurde geschrieben, und nichts würde es. Ohne das, was im Weg ist: {whole} von {count}.</translation></message>
<message><source>Nothing was written. {whole} of {count} would be delivered.</source><translation>Nichts wurde geschrieben. {whole} von {count} würden geliefert.</translation></message>
<message><source>OAK_SQUARE_LIMITS: '{name}' is no limit{did_you_mean}</source><translation>OAK_SQUARE_LIMITS: „{name}“ ist keine Grenze{did_you_mean}</translation></message>
<message><source>OAK_SQUARE_LIMITS: {name} is '{value}', which is no number</source><translation>OAK_SQUARE_LIMITS: {name} ist „{value}“, was keine Zahl ist</translation></message>
<message><source>OAK_SQUARE_LIMITS: {name} must be more than nothing</source><translation>OAK_SQUARE_LIMITS: {name} muss mehr als nichts sein</translation></message>
<message><source>Oak Square does not carry {listed} into {title} yet</source><translation>Oak Square nimmt noch nicht nach {title} mit: {listed}</translation></message>
<message><source>Odd ones and doubts of the folder</source><translation>Ausreißer und Zweifel des Ordners</translation></message>
<message><source>Of parts and groups: 0, 0, 0</source><translation>Bei Teilen und Gruppen: 0, 0, 0</translation></message>
<message><source>Of parts and groups: along the axes of what it hangs from</source><translation>Bei Teilen und Gruppen: entlang der Achsen dessen, woran es hängt</translation></message>
<message><source>Of parts and groups: the mean of the pivots right below</source><translation>Bei Teilen und Gruppen: der Mittelwert der Drehpunkte gleich darunter</translation></message>
<message><source>Of parts and groups: the point chosen below comes to where the parent's pivot is</source><translation>Bei Teilen und Gruppen: der unten gewählte Punkt kommt dorthin, wo der Drehpunkt des Übergeordneten ist</translation></message>
<message><source>Of parts and groups: they move together, by the point of their common box</source><translation>Bei Teilen und Gruppen: sie bewegen sich zusammen, am Punkt ihres gemeinsamen Kastens</translation></message>
<message><source>Of parts and groups: where the parent's pivot is</source><translation>Bei Teilen und Gruppen: wo der Drehpunkt des Übergeordneten ist</translation></message>
<message><source>Of several picks, moved on, or to the other side of the asset</source><translation>Aus mehreren Punkten, verschoben, oder auf der anderen Seite des Modells</translation></message>
<message><source>Of several: the mean of their pivots stays in place</source><translation>Bei mehreren: der Mittelwert ihrer Drehpunkte bleibt an Ort und Stelle</translation></message>
<message><source>Of several: the middle of their common box stays in place</source><translation>Bei mehreren: die Mitte ihres gemeinsamen Kastens bleibt an Ort und Stelle</translation></message>
<message><source>On some axes alone a pick is for one pivot: choose one part or group.</source><translation>Nur auf manchen Achsen ist eine Wahl für einen einzigen Drehpunkt: ein Teil oder eine Gruppe wählen.</translation></message>
<message><source>On the shelf</source><translation>Im Regal</translation></message>
<message><source>One NaN empties bounding boxes downstream, and the model is culled or crashes the physics.</source><translation>Ein NaN leert weiter unten die Hüllkästen, und das Modell wird weggelassen oder bringt die Physik zum Absturz.</translation></message>
<message><source>One line every</source><translation>Eine Linie alle</translation></message>
<message><source>One point: its coordinates</source><translation>Ein Punkt: seine Koordinaten</translation></message>
<message><source>One scale for all: a metre is a metre everywhere</source><translation>Ein Maßstab für alle: ein Meter ist überall ein Meter</translation></message>
<message><source>One unit is</source><translation>Eine Einheit ist</translation></message>
<message><source>One unit of the file</source><translation>Eine Einheit der Datei</translation></message>
<message><source>Only these coordinates change; all where not given.</source><translation>Nur diese Koordinaten ändern sich; alle, wenn nicht angegeben.</translation></message>
<message><source>Only this extent changes</source><translation>Nur diese Ausdehnung ändert sich</translation></message>
<message><source>Only what has a berth stands in the scene</source><translation>Nur was einen Liegeplatz hat, steht in der Szene</translation></message>
<message><source>Onto the middle of its top</source><translation>Auf die Mitte seiner Oberseite</translation></message>
<message><source>Onto: click a face, an edge or a circle</source><translation>Auf: eine Fläche, Kante oder einen Kreis anklicken</translation></message>
<message><source>Open</source><translation>Öffnen</translation></message>
<message><source>Open a folder of models</source><translation>Einen Ordner mit Modellen öffnen</translation></message>
<message><source>Open a folder of models to begin.</source><translation>Zum Anfangen einen Ordner mit Modellen öffnen.</translation></message>
<message><source>Open a folder…</source><translation>Ordner öffnen …</translation></message>
<message><source>Open a prep sheet</source><translation>Ein Vorbereitungsblatt öffnen</translation></message>
<message><source>Open a prep sheet…</source><translation>Vorbereitungsblatt öffnen …</translation></message>
<message><source>Open a sheet…</source><translation>Ein Blatt öffnen …</translation></message>
<message><source>Open a size book</source><translation>Ein Maßbuch öffnen</translation></message>
<message><source>Open all models in a folder, and in those in it</source><translation>Alle Modelle in einem Ordner öffnen, und in denen darin</translation></message>
<message><source>Open files…</source><translation>Dateien öffnen …</translation></message>
<message><source>Open folder</source><translation>Ordner öffnen</translation></message>
<message><source>Open models</source><translation>Modelle öffnen</translation></message>
<message><source>Open models one by one</source><translation>Modelle einzeln öffnen</translation></message>
<message><source>Open step {index}</source><translation>Schritt {index} öffnen</translation></message>
<message><source>Open steps that were kept</source><translation>Schritte öffnen, die behalten wurden</translation></message>
<message><source>Open the demo batch</source><translation>Den Demostapel öffnen</translation></message>
<message><source>Open what it says now</source><translation>Öffnen, was jetzt darin steht</translation></message>
<message><source>Open {name}</source><translation>{name} öffnen</translation></message>
<message><source>Open {words}, {where}</source><translation>{words} öffnen, {where}</translation></message>
<message><source>Open, save, undo</source><translation>Öffnen, speichern, rückgängig machen</translation></message>
<message><source>Opened {name}: {steps}</source><translation>{name} geöffnet: {steps}</translation></message>
<message><source>Open…</source><translation>Öffnen …</translation></message>
<message><source>Order of the angles</source><translation>Reihenfolge der Winkel</translation></message>
<message><source>PLY holds one texture: {count} more are left out</source><translation>PLY hält eine Textur: {count} weitere bleiben weg</translation></message>
<message><source>Pages of the manual</source><translation>Seiten des Handbuchs</translation></message>
<message><source>Part patterns</source><translation>Teilmuster</translation></message>
<message><source>Paste a point as position, pivot or datum</source><translation>Einen Punkt als Ort, Drehpunkt oder Bezug einfügen</translation></message>
<message><source>Patterns on names of parts and groups, parted by commas; empty: as a whole</source><translation>Muster für Namen von Teilen und Gruppen, durch Kommas getrennt; leer: im Ganzen</translation></message>
<message><source>Patterns on path or name, parted by commas: assets that this step leaves as they are</source><translation>Muster für Pfad oder Name, durch Kommas getrennt: Modelle, die dieser Schritt lässt, wie sie sind</translation></message>
<message><source>Patterns on path or name, parted by commas; empty: every asset</source><translation>Muster für Pfad oder Name, durch Kommas getrennt; leer: jedes Modell</translation></message>
<message><source>Patterns on {of}, parted by commas: * any letters, ? one letter</source><translation>Muster für {of}, durch Kommas getrennt: * beliebige Zeichen, ? ein Zeichen</translation></message>
<message><source>Pause a step; change for whom it is, its exceptions and its note</source><translation>Einen Schritt aussetzen; ändern, für wen er ist, seine Ausnahmen und seine Notiz</translation></message>
<message><source>Pause {title}</source><translation>{title} aussetzen</translation></message>
<message><source>Paused: kept on the sheet, left out of the run</source><translation>Ausgesetzt: bleibt auf dem Blatt, fehlt im Lauf</translation></message>
<message><source>Physics, particles and parented things inherit the factor; typed sizes mean something else below it.</source><translation>Physik, Partikel und Angehängtes erben den Faktor; getippte Größen bedeuten darunter etwas anderes.</translation></message>
<message><source>Pick</source><translation>Wähler</translation></message>
<message><source>Pick a corner, an edge, a face or a circle in the view</source><translation>Eine Ecke, eine Kante, eine Fläche oder einen Kreis in der Ansicht wählen</translation></message>
<message><source>Pick a corner, edge, face or circle in the view: it is found again on every asset it applies to</source><translation>Eine Ecke, Kante, Fläche oder einen Kreis in der Ansicht wählen: an jedem Modell, für das es gilt, wird er wiedergefunden</translation></message>
<message><source>Pick a face, an edge or a circle: its normal, line or axis is brought round</source><translation>Eine Fläche, Kante oder einen Kreis wählen: Normale, Linie oder Achse wird herumgebracht</translation></message>
<message><source>Pick a point in the view: it is found again on every asset it applies to</source><translation>Einen Punkt in der Ansicht wählen: an jedem Modell, für das es gilt, wird er wiedergefunden</translation></message>
<message><source>Pick all parts and groups that a pattern fits: * for any letters, ? for one</source><translation>Alle Teile und Gruppen wählen, zu denen ein Muster passt: * für beliebige Zeichen, ? für eines</translation></message>
<message><source>Pick and snap to: {kind}</source><translation>Wählen und einrasten an: {kind}</translation></message>
<message><source>Pick it in the list or the view</source><translation>Es in der Liste oder der Ansicht wählen</translation></message>
<message><source>Pick parts by name</source><translation>Teile nach Namen wählen</translation></message>
<message><source>Pick parts or groups first, in the hierarchy or the view</source><translation>Zuerst Teile oder Gruppen wählen, in der Hierarchie oder der Ansicht</translation></message>
<message><source>Pick the face, edge or circle that it shall point along</source><translation>Die Fläche, Kante oder den Kreis wählen, an dem es entlangzeigen soll</translation></message>
<message><source>Pick the part first whose pivot shall be there</source><translation>Zuerst das Teil wählen, dessen Drehpunkt dort sein soll</translation></message>
<message><source>Pick the part or group whose pivot's axes are turned: an asset's are the file's</source><translation>Das Teil oder die Gruppe wählen, deren Drehpunkt-Achsen gedreht werden: die eines Modells sind die der Datei</translation></message>
<message><source>Pick the point of it that goes there</source><translation>Den Punkt daran wählen, der dorthin geht</translation></message>
<message><source>Pick what it happens about: a corner, a circle, a pivot</source><translation>Wählen, worum es geschieht: eine Ecke, einen Kreis, einen Drehpunkt</translation></message>
<message><source>Pick what it moves away from: a corner, a circle, a pivot</source><translation>Wählen, wovon es sich wegbewegt: eine Ecke, einen Kreis, einen Drehpunkt</translation></message>
<message><source>Pick what stays in place: a corner, a circle, a pivot</source><translation>Wählen, was an Ort und Stelle bleibt: eine Ecke, einen Kreis, einen Drehpunkt</translation></message>
<message><source>Pick what turns and sizes happen about</source><translation>Wählen, worum gedreht und bemessen wird</translation></message>
<message><source>Pieces that nothing joins become parts of their own, with their own pivots; nothing moves</source><translation>Stücke, die nichts verbindet, werden eigene Teile mit eigenem Drehpunkt; nichts bewegt sich</translation></message>
<message><source>Pivot</source><translation>Drehpunkt</translation></message>
<message><source>Pivot as received</source><translation>Drehpunkt wie erhalten</translation></message>
<message><source>Pivot to its parent's</source><translation>Drehpunkt auf den des Übergeordneten</translation></message>
<message><source>Pivot to the base of {whole}</source><translation>Drehpunkt auf die Unterseite von: {whole}</translation></message>
<message><source>Pivot to the mean of its children's</source><translation>Drehpunkt auf den Mittelwert der Untergeordneten</translation></message>
<message><source>Pivot to the middle of {whole}</source><translation>Drehpunkt auf die Mitte von: {whole}</translation></message>
<message><source>Pivot to the {said} point</source><translation>Drehpunkt auf den Punkt {said}</translation></message>
<message><source>Pivot to their mean</source><translation>Drehpunkt auf ihren Mittelwert</translation></message>
<message><source>Pivot to {name}'s</source><translation>Drehpunkt auf den von {name}</translation></message>
<message><source>Pivot {a}</source><translation>Drehpunkt {a}</translation></message>
<message><source>Pivot: click the point it goes to</source><translation>Drehpunkt: den Punkt anklicken, auf den er geht</translation></message>
<message><source>Pivot: {words} of {target}</source><translation>Drehpunkt: {words}, für {target}</translation></message>
<message><source>Pivots only: click a point to hang the part there  ·  take geometry along again{key}  ·  Esc</source><translation>Nur Drehpunkte: einen Punkt anklicken, um das Teil dort aufzuhängen  ·  Geometrie wieder mitnehmen{key}  ·  Esc</translation></message>
<message><source>Place</source><comment>stage</comment><translation>Setzen</translation></message>
<message><source>Place {a}</source><translation>Setzen {a}</translation></message>
<message><source>Place: click the point it goes to</source><translation>Setzen: den Punkt anklicken, auf den es geht</translation></message>
<message><source>Place: click the point of it that goes there</source><translation>Setzen: den Punkt daran anklicken, der dorthin geht</translation></message>
<message><source>Place: {words}</source><translation>Setzen: {words}</translation></message>
<message><source>Play the asset's clip as it will be once the steps are done; again to stop</source><translation>Den Clip des Modells abspielen, wie er nach den Schritten sein wird; noch einmal hält an</translation></message>
<message><source>Prep sheets (*.prepsheet.yaml *.yaml *.yml)</source><translation>Vorbereitungsblätter (*.prepsheet.yaml *.yaml *.yml)</translation></message>
<message><source>Press Bake rotation and scale: nothing is changed yet, you see before → after and what it would bring about. Enter keeps it as a step, Esc drops it. Undo{key} takes anything back.</source><translation>„Drehung und Skalierung einrechnen“ drücken: noch ist nichts geändert, zu sehen ist vorher → nachher und was daraus folgt. Eingabe behält es als Schritt, Esc verwirft es. Rückgängig{key} nimmt alles zurück.</translation></message>
<message><source>Press the keys for: {words}.</source><translation>Die Tasten drücken für: {words}.</translation></message>
<message><source>Press the keys that shall do what is chosen above</source><translation>Die Tasten drücken, die das oben Gewählte tun sollen</translation></message>
<message><source>Put a datum down at a point, then line it up</source><translation>Einen Bezug an einem Punkt ablegen, dann ausrichten</translation></message>
<message><source>Put down datum {name}</source><translation>Bezug {name} ablegen</translation></message>
<message><source>Put it aside</source><translation>Weglegen</translation></message>
<message><source>Put it into the tray</source><translation>In die Ablage legen</translation></message>
<message><source>Put it on the shelf as…</source><translation>Ins Regal stellen als …</translation></message>
<message><source>Put what is tried on the prep sheet (Enter)</source><translation>Den Versuch auf das Vorbereitungsblatt setzen (Eingabe)</translation></message>
<message><source>Read in {w}</source><translation>Gelesen in {w}</translation></message>
<message><source>Read it in {unit}: {size}, {share}</source><translation>In {unit} lesen: {size}, {share}</translation></message>
<message><source>Read it with {axis} up, {percent}</source><translation>Mit {axis} oben lesen, {percent}</translation></message>
<message><source>Read no more files; what is read stays</source><translation>Keine weiteren Dateien lesen; was gelesen ist, bleibt</translation></message>
<message><source>Read the file's numbers as {w}</source><translation>Die Zahlen der Datei lesen als {w}</translation></message>
<message><source>Readings are settled before all other steps, wherever they stand on the sheet.</source><translation>Lesarten werden vor allen anderen Schritten erledigt, wo immer sie auf dem Blatt stehen.</translation></message>
<message><source>Receive</source><translation>Eingang</translation></message>
<message><source>Recent batches</source><translation>Zuletzt geöffnete Stapel</translation></message>
<message><source>Recent sheets</source><translation>Zuletzt geöffnete Blätter</translation></message>
<message><source>Recheck the files</source><translation>Die Dateien nachprüfen</translation></message>
<message><source>Redid: {label}</source><translation>Wiederholt: {label}</translation></message>
<message><source>Redo</source><translation>Wiederholen</translation></message>
<message><source>Refused where a mark is not found on each of the parts it is for.</source><translation>Verweigert, wo eine Marke nicht auf jedem der Teile gefunden wird, für die er gilt.</translation></message>
<message><source>Remove	Del</source><translation>Entfernen	Entf</translation></message>
<message><source>Remove the row</source><translation>Die Zeile entfernen</translation></message>
<message><source>Remove {title}</source><translation>{title} entfernen</translation></message>
<message><source>Replace an earlier delivery there</source><translation>Eine frühere Lieferung dort ersetzen</translation></message>
<message><source>Report…</source><translation>Bericht …</translation></message>
<message><source>Reset: {what}</source><translation>Zurücksetzen: {what}</translation></message>
<message><source>Results</source><translation>Ergebnisse</translation></message>
<message><source>Rotation and scale of every node read 0 and 1.</source><translation>Drehung und Skalierung jedes Knotens lesen 0 und 1.</translation></message>
<message><source>Rotation becomes 0; the part's own axes are its parent's from then on</source><translation>Die Drehung wird 0; die eigenen Achsen des Teils sind von da an die des Übergeordneten</translation></message>
<message><source>Rows to the front</source><translation>Reihen nach vorn</translation></message>
<message><source>Rows to the right</source><translation>Reihen nach rechts</translation></message>
<message><source>Rule</source><translation>Lineal</translation></message>
<message><source>Run it on this batch</source><translation>Auf diesem Stapel laufen lassen</translation></message>
<message><source>Save</source><translation>Speichern</translation></message>
<message><source>Save the prep sheet</source><translation>Das Vorbereitungsblatt speichern</translation></message>
<message><source>Save the prep sheet as…</source><translation>Vorbereitungsblatt speichern als …</translation></message>
<message><source>Save the report</source><translation>Den Bericht speichern</translation></message>
<message><source>Save the size book</source><translation>Das Maßbuch speichern</translation></message>
<message><source>Save what the run came to: a page to send on, a table, or a document for scripts</source><translation>Speichern, was der Lauf ergab: eine Seite zum Weitergeben, eine Tabelle oder ein Dokument für Skripte</translation></message>
<message><source>Saved {name}</source><translation>{name} gespeichert</translation></message>
<message><source>Saved {name}{anew}</source><translation>{name} gespeichert{anew}</translation></message>
<message><source>Save…</source><translation>Speichern …</translation></message>
<message><source>Say what would come of each asset, and what is in the way there; write nothing</source><translation>Sagen, was aus jedem Modell würde und was dort im Weg ist; nichts schreiben</translation></message>
<message><source>Say which axes of the file point up and to the front</source><translation>Sagen, welche Achsen der Datei nach oben und nach vorn zeigen</translation></message>
<message><source>Say which unit each was made in, or type the extent it shall have</source><translation>Sagen, in welcher Einheit jedes gemacht ist, oder die Ausdehnung tippen, die es haben soll</translation></message>
<message><source>Say which unit the file's numbers are in</source><translation>Sagen, in welcher Einheit die Zahlen der Datei sind</translation></message>
<message><source>Scale becomes 1; what it did goes into the geometry</source><translation>Die Skalierung wird 1; was sie bewirkte, geht in die Geometrie</translation></message>
<message><source>Scales so that what is measured is as long as asked for. The size goes into geometry, not into channels.</source><translation>Skaliert, bis das Gemessene so lang ist wie verlangt. Die Größe geht in die Geometrie, nicht in Kanäle.</translation></message>
<message><source>Scene file</source><translation>Szenendatei</translation></message>
<message><source>See what it says, and change it</source><translation>Sehen, was er sagt, und es ändern</translation></message>
<message><source>Seen from the front</source><translation>Von vorn gesehen</translation></message>
<message><source>Seen from the right side</source><translation>Von rechts gesehen</translation></message>
<message><source>Select an asset in the list at the left to see it here</source><translation>Links in der Liste ein Modell auswählen, um es hier zu sehen</translation></message>
<message><source>Select an asset to stand on the ground</source><translation>Ein Modell auswählen, um es auf den Boden zu stellen</translation></message>
<message><source>Select an asset: its parts and groups are listed here.</source><translation>Ein Modell auswählen: seine Teile und Gruppen stehen dann hier.</translation></message>
<message><source>Select every asset that has it</source><translation>Jedes Modell auswählen, das es hat</translation></message>
<message><source>Select them</source><translation>Auswählen</translation></message>
<message><source>Select those that differ from their folder, and those of which nobody can tell</source><translation>Die auswählen, die von ihrem Ordner abweichen, und die, bei denen es niemand sagen kann</translation></message>
<message><source>Select what shall be set down there first</source><translation>Zuerst auswählen, was dort abgesetzt werden soll</translation></message>
<message><source>Set down at height 0, it floats or sinks.</source><translation>Auf Höhe 0 abgesetzt, schwebt oder versinkt es.</translation></message>
<message><source>Set down by its origin, it stands beside its place, and copies cut through the ground.</source><translation>An seinem Ursprung abgesetzt, steht es neben seinem Platz, und Kopien schneiden in den Boden.</translation></message>
<message><source>Set down by the pivot, upright: on level ground, on a slope of {slope_deg:g}°, on gently uneven ground. Nothing changes by it.</source><translation>Am Drehpunkt aufrecht abgesetzt: auf ebenem Boden, auf einem Hang von {slope_deg:g}°, auf leicht unebenem Boden. Nichts ändert sich dadurch.</translation></message>
<message><source>Set down or swap what is selected</source><translation>Ausgewähltes absetzen oder tauschen</translation></message>
<message><source>Set down {names} at {berth}</source><translation>{names} auf {berth} absetzen</translation></message>
<message><source>Set one angle of the rotation channel, the others stay</source><translation>Einen Winkel des Drehungskanals setzen, die anderen bleiben</translation></message>
<message><source>Set out as {file}</source><translation>Aufbau als {file}</translation></message>
<message><source>Set the module…</source><translation>Das Modul festlegen …</translation></message>
<message><source>Set what is selected down on the ground</source><translation>Ausgewähltes auf dem Boden absetzen</translation></message>
<message><source>Set what is selected side by side from here</source><translation>Das Ausgewählte von hier an nebeneinanderstellen</translation></message>
<message><source>Set {angles}</source><translation>Setzen {angles}</translation></message>
<message><source>Set {names} side by side from {berth}</source><translation>{names} ab {berth} nebeneinanderstellen</translation></message>
<message><source>Set {name}</source><translation>Setzen: {name}</translation></message>
<message><source>Set-out</source><translation>Aufbau</translation></message>
<message><source>Sets the reading's unit; settled before all other steps.</source><translation>Setzt die Einheit der Lesart; vor allen anderen Schritten.</translation></message>
<message><source>Sets which signed file axes are up and front, settled before all other steps; or turns things.</source><translation>Setzt, welche Achsen der Datei mit Vorzeichen oben und vorn sind, vor allen anderen Schritten; oder dreht Dinge.</translation></message>
<message><source>Settle</source><translation>Erledigen</translation></message>
<message><source>Settle: {title}</source><translation>Erledigen: {title}</translation></message>
<message><source>Settled here: {what}, for {alike} of {count}.</source><translation>Hier erledigt: {what}, für {alike} von {count}.</translation></message>
<message><source>Several are picked: type their size in the panel, or pick one</source><translation>Mehrere sind gewählt: ihre Größe im Bereich rechts eintippen, oder eines wählen</translation></message>
<message><source>Several that are selected count as one: they move, turn and are sized by their common box</source><translation>Mehrere Ausgewählte gelten als eins: bewegt, gedreht und in der Größe geändert werden sie mit ihrem gemeinsamen Kasten</translation></message>
<message><source>Several: what is typed is set on each, the other angles stay.</source><translation>Mehrere: was getippt wird, wird bei jedem gesetzt, die anderen Winkel bleiben.</translation></message>
<message><source>Shape: click vertices, edges, faces, circles; Ctrl adds, a drag frames  ·  Rule, Dial, Callipers move them  ·  Esc</source><translation>Form: Eckpunkte, Kanten, Flächen, Kreise anklicken; Strg nimmt hinzu, ziehen rahmt  ·  Lineal, Drehscheibe, Schieblehre bewegen sie  ·  Esc</translation></message>
<message><source>Sheets on the shelf</source><translation>Blätter im Regal</translation></message>
<message><source>Sheets on the shelf…</source><translation>Blätter im Regal …</translation></message>
<message><source>Shift {a}</source><translation>Verschiebung {a}</translation></message>
<message><source>Show only the assets whose path holds these letters</source><translation>Nur die Modelle zeigen, deren Pfad diese Buchstaben enthält</translation></message>
<message><source>Show only the nodes with a rotation or a scale, or to which something happens</source><translation>Nur Knoten mit Drehung oder Skalierung zeigen, oder mit denen etwas geschieht</translation></message>
<message><source>Show only the nodes with these letters in their name</source><translation>Nur Knoten mit diesen Buchstaben im Namen zeigen</translation></message>
<message><source>Show the batch and the hierarchy in this column</source><translation>Den Stapel und die Hierarchie in dieser Spalte zeigen</translation></message>
<message><source>Show the stage in this column</source><translation>Die Stufe in dieser Spalte zeigen</translation></message>
<message><source>Show the {view} view</source><translation>Ansicht {view} zeigen</translation></message>
<message><source>Show what was delivered in the file manager</source><translation>Das Gelieferte in der Dateiverwaltung zeigen</translation></message>
<message><source>Size</source><translation>Bemessen</translation></message>
<message><source>Size</source><comment>stage</comment><translation>Maß</translation></message>
<message><source>Size all three extents in proportion</source><translation>Alle drei Ausdehnungen im Verhältnis bemessen</translation></message>
<message><source>Size book</source><translation>Maßbuch</translation></message>
<message><source>Size book {name}: {entries}</source><translation>Maßbuch {name}: {entries}</translation></message>
<message><source>Size book, not saved yet</source><translation>Maßbuch, noch nicht gespeichert</translation></message>
<message><source>Size book: {name}</source><translation>Maßbuch: {name}</translation></message>
<message><source>Size books (*.csv)</source><translation>Maßbücher (*.csv)</translation></message>
<message><source>Size book…</source><translation>Maßbuch …</translation></message>
<message><source>Size by a factor or percent</source><translation>Mit einem Faktor oder Prozent bemessen</translation></message>
<message><source>Size the {extents}</source><translation>{extents} bemessen</translation></message>
<message><source>Size what is selected by its sides, or all of it by the knob</source><translation>Ausgewähltes an seinen Seiten bemessen, oder im Ganzen am Knopf</translation></message>
<message><source>Size × {factors} {along}</source><translation>Größe × {factors} {along}</translation></message>
<message><source>Slab {word}</source><translation>Scheibe {word}</translation></message>
<message><source>Snap to a grid of {mark}; right click sets its spacing</source><translation>An einem Gitter von {mark} einrasten; Rechtsklick stellt den Abstand ein</translation></message>
<message><source>Snap to the grid; right click sets its spacing</source><translation>Am Gitter einrasten; Rechtsklick stellt den Abstand ein</translation></message>
<message><source>Sort and group the batch</source><translation>Den Stapel ordnen und gruppieren</translation></message>
<message><source>Split {names}</source><translation>{names} zerlegen</translation></message>
<message><source>Square up</source><translation>Rechtwinklig stellen</translation></message>
<message><source>Stages</source><translation>Stufen</translation></message>
<message><source>Stand</source><translation>Stand</translation></message>
<message><source>Stand check</source><translation>Standprobe</translation></message>
<message><source>Stay</source><translation>Bleiben</translation></message>
<message><source>Step {editing}: {stage}</source><translation>Schritt {editing}: {stage}</translation></message>
<message><source>Step {index}: {title}</source><translation>Schritt {index}: {title}</translation></message>
<message><source>Step {number}: {title}</source><translation>Schritt {number}: {title}</translation></message>
<message><source>Steps are written in modules of {module}: another length would size them anew</source><translation>Schritte sind in Modulen von {module} geschrieben: eine andere Länge würde sie neu bemessen</translation></message>
<message><source>Stop</source><translation>Anhalten</translation></message>
<message><source>Stop after the asset under way; what is delivered stays</source><translation>Nach dem Modell in Arbeit anhalten; was geliefert ist, bleibt</translation></message>
<message numerus="yes"><source>Stopped reading; {count} files were not read</source><translation><numerusform>Lesen angehalten; {count} Datei nicht gelesen</numerusform><numerusform>Lesen angehalten; {count} Dateien nicht gelesen</numerusform></translation></message>
<message><source>Swap Bench and {view}</source><translation>Zwischen Werkbank und {view} wechseln</translation></message>
<message><source>Swap parallel projection and perspective</source><translation>Zwischen Parallelprojektion und Perspektive wechseln</translation></message>
<message><source>Swap the side columns, where they share one place</source><translation>Die Seitenspalten wechseln, wo sie sich einen Platz teilen</translation></message>
<message><source>Swap world axes and own ones</source><translation>Zwischen Weltachsen und eigenen wechseln</translation></message>
<message><source>Swap {former} at {berth} for {now}</source><translation>{former} auf {berth} gegen {now} tauschen</translation></message>
<message><source>Swing</source><translation>Schwenker</translation></message>
<message><source>Swing from</source><translation>Schwenken von</translation></message>
<message><source>Swing it: nothing changes by that</source><translation>Schwenken: dadurch ändert sich nichts</translation></message>
<message><source>Swing the picked part about its pivot, to see that the hinge is right; nothing changes</source><translation>Das gewählte Teil um seinen Drehpunkt schwenken, um zu sehen, ob das Scharnier stimmt; nichts ändert sich</translation></message>
<message><source>Swing to</source><translation>Schwenken bis</translation></message>
<message><source>Swing: pick the part that swings, in the view or the hierarchy  ·  Esc</source><translation>Schwenker: das Teil wählen, das schwingt, in der Ansicht oder der Hierarchie  ·  Esc</translation></message>
<message><source>Swing: {name} about its own {letter}, {limits}{read}  ·  Esc</source><translation>Schwenker: {name} um das eigene {letter}, {limits}{read}  ·  Esc</translation></message>
<message><source>Take apart in pieces</source><translation>In Stücke zerlegen</translation></message>
<message><source>Take away what is selected: an asset, a card, a favourite</source><translation>Ausgewähltes wegnehmen: ein Modell, eine Karte, einen Favoriten</translation></message>
<message><source>Take in {what}</source><translation>{what} aufnehmen</translation></message>
<message><source>Take into the delivery</source><translation>In die Lieferung aufnehmen</translation></message>
<message><source>Take it in place of the sheet at hand; undo{key} takes that back</source><translation>Es anstelle des vorliegenden Blatts nehmen; Rückgängig{key} nimmt das zurück</translation></message>
<message><source>Take it off the shelf</source><translation>Aus dem Regal nehmen</translation></message>
<message><source>Take it out of the tray</source><translation>Aus der Ablage nehmen</translation></message>
<message><source>Take it up</source><translation>Fortsetzen</translation></message>
<message><source>Take out of the batch	Del</source><translation>Aus dem Stapel nehmen	Entf</translation></message>
<message><source>Take pivots alone, or with their geometry</source><translation>Drehpunkte allein nehmen oder mit ihrer Geometrie</translation></message>
<message numerus="yes"><source>Take the best for {count} that are certain</source><translation><numerusform>Das Beste übernehmen für {count}, das sicher ist</numerusform><numerusform>Das Beste übernehmen für {count}, die sicher sind</numerusform></translation></message>
<message><source>Take the book in a CSV file in place of this one</source><translation>Das Buch in einer CSV-Datei anstelle von diesem nehmen</translation></message>
<message><source>Take the row with the cursor off the book</source><translation>Die Zeile mit dem Cursor aus dem Buch nehmen</translation></message>
<message><source>Take the set-out off the sheet</source><translation>Den Aufbau vom Blatt nehmen</translation></message>
<message><source>Take the set-out off the sheet; berths stay</source><translation>Den Aufbau vom Blatt nehmen; Liegeplätze bleiben</translation></message>
<message><source>Take the step off the sheet</source><translation>Den Schritt vom Blatt nehmen</translation></message>
<message><source>Take the tour</source><translation>Den Rundgang machen</translation></message>
<message><source>Take the {what}: {words}</source><translation>{what} übernehmen: {words}</translation></message>
<message><source>Take this measurement off the list</source><translation>Diese Messung von der Liste nehmen</translation></message>
<message><source>Take up again	P</source><translation>Wieder aufnehmen	P</translation></message>
<message><source>Take up {title}</source><translation>{title} wieder aufnehmen</translation></message>
<message><source>Take up {word}</source><translation>Aufnehmen: {word}</translation></message>
<message><source>Take what is selected as the reference, or no more</source><translation>Ausgewähltes zum Vergleichsmaß nehmen, oder nicht mehr</translation></message>
<message><source>Take what is selected off its berths: it stands in the rows again</source><translation>Ausgewähltes von seinen Liegeplätzen nehmen: es steht wieder in den Reihen</translation></message>
<message><source>Take {what} for {count}</source><translation>{what} übernehmen für {count}</translation></message>
<message><source>Taken factor</source><translation>Faktor des Genommenen</translation></message>
<message><source>Taken factor {a}</source><translation>Faktor des Genommenen {a}</translation></message>
<message><source>Taken out of the batch: {what}; open it again to have it back</source><translation>Aus dem Stapel genommen: {what}; wieder öffnen holt es zurück</translation></message>
<message><source>Taken up again: {steps}, and all that can be undone{lost}</source><translation>Wieder aufgenommen: {steps}, und alles, was sich rückgängig machen lässt{lost}</translation></message>
<message><source>Taken {name}</source><translation>Genommen: {name}</translation></message>
<message><source>Takes the named parts apart into their connected pieces, each a child of its own.</source><translation>Nimmt die genannten Teile in ihre verbundenen Stücke auseinander, jedes ein eigenes Kind.</translation></message>
<message><source>Text and controls at {size} %</source><translation>Text und Bedienelemente auf {size} %</translation></message>
<message><source>Text and controls stand at {size} % from the next start on</source><translation>Text und Bedienelemente stehen ab dem nächsten Start auf {size} %</translation></message>
<message><source>That is no point: three lengths, such as 12.4 m, 0 m, -3.2 m</source><translation>Das ist kein Punkt: drei Längen, etwa 12,4 m; 0 m; -3,2 m</translation></message>
<message><source>That is not on a face</source><translation>Das ist nicht auf einer Fläche</translation></message>
<message><source>That is not there any more</source><translation>Das ist nicht mehr da</translation></message>
<message><source>That is the point taken last</source><translation>Das ist der zuletzt genommene Punkt</translation></message>
<message><source>That is where the datum is: click another point, an edge or a face</source><translation>Dort ist der Bezug schon: einen anderen Punkt, eine Kante oder eine Fläche anklicken</translation></message>
<message><source>The Line-up sets the whole batch side by side at true scale, beside a person and a staff. Most files don't say their unit; what is certain is settled with one click at the right. Click a model that is wrong and choose its unit.</source><translation>Die Aufstellung stellt den ganzen Stapel in wahrem Maßstab nebeneinander, neben eine Figur und eine Messlatte. Die meisten Dateien nennen ihre Einheit nicht; was sicher ist, erledigt rechts ein Klick. Ein Modell anklicken, das nicht stimmt, und seine Einheit wählen.</translation></message>
<message><source>The angle about {a} that it shall have; others stay</source><translation>Der Winkel um {a}, den es haben soll; andere bleiben</translation></message>
<message><source>The angle it swings from, degrees</source><translation>Der Winkel, ab dem es schwingt, in Grad</translation></message>
<message><source>The angle it swings to, degrees</source><translation>Der Winkel, bis zu dem es schwingt, in Grad</translation></message>
<message><source>The asset as a whole</source><translation>Das Modell im Ganzen</translation></message>
<message><source>The asset as a whole (the default), its parts (the default where named), groups, or all.</source><translation>Das Modell im Ganzen (üblich), seine Teile (üblich, wo sie genannt sind), Gruppen oder alle.</translation></message>
<message><source>The asset that it hangs from, by path or name.</source><translation>Das Modell, an dem es hängt, mit Pfad oder Namen.</translation></message>
<message><source>The asset whose extent it shall have, as it stands after its own steps before this one</source><translation>Das Modell, dessen Ausdehnung es haben soll, wie es nach seinen eigenen Schritten vor diesem steht</translation></message>
<message><source>The asset, by path or name, whose extent it shall have; or a part of an asset.</source><translation>Das Modell, mit Pfad oder Namen, dessen Ausdehnung es haben soll; oder ein Teil eines Modells.</translation></message>
<message><source>The assets that it is for move as one thing, by points of their common box.</source><translation>Die Modelle, für die es gilt, bewegen sich als eins, an Punkten ihres gemeinsamen Kastens.</translation></message>
<message><source>The axes in force; to swap world and own</source><translation>Die geltenden Achsen; zum Wechseln zwischen Welt und eigenen</translation></message>
<message><source>The axes of by, turn, factor and extents: world (the default), parent, own, or a datum's.</source><translation>Die Achsen von by, turn, factor und Ausdehnungen: world (üblich), parent, own oder die eines Bezugs.</translation></message>
<message><source>The axes of that shift: world (the default), parent, own, or a datum's.</source><translation>Die Achsen dieser Verschiebung: world (üblich), parent, own oder die eines Bezugs.</translation></message>
<message><source>The axes of those angles: world (the default), parent, own, or a datum's.</source><translation>Die Achsen dieser Winkel: world (üblich), parent, own oder die eines Bezugs.</translation></message>
<message><source>The box along the part's own axes: of one that is modelled tilted</source><translation>Der Kasten entlang der eigenen Achsen des Teils: bei einem, das schräg gebaut ist</translation></message>
<message><source>The box along the world's axes</source><translation>Der Kasten entlang der Weltachsen</translation></message>
<message><source>The centre of the circle through {points}.</source><translation>Die Mitte des Kreises durch {points}.</translation></message>
<message><source>The centre that it is moved away from.</source><translation>Die Mitte, von der es wegbewegt wird.</translation></message>
<message><source>The channels read 0 and 1, and the nodes move to their parent's frame</source><translation>Die Kanäle lesen 0 und 1, und die Knoten gehen in den Rahmen des Übergeordneten</translation></message>
<message><source>The channels read 0 and 1, and the world stays as it is</source><translation>Die Kanäle lesen 0 und 1, und die Welt bleibt, wie sie ist</translation></message>
<message><source>The coordinate along the {name} that all of them get</source><translation>Die Koordinate entlang {name}, die alle bekommen</translation></message>
<message><source>The coordinates they get along some of the delivery axes.</source><translation>Die Koordinaten, die sie entlang einiger Lieferachsen bekommen.</translation></message>
<message><source>The depth it shall have, back to front.</source><translation>Die Tiefe, die es haben soll, von hinten nach vorn.</translation></message>
<message><source>The depth that what is taken shall have.</source><translation>Die Tiefe, die das Genommene haben soll.</translation></message>
<message><source>The distance between its lines</source><translation>Der Abstand seiner Linien</translation></message>
<message><source>The distance between two lines of the ground grid</source><translation>Der Abstand zweier Linien des Bodengitters</translation></message>
<message><source>The file axis that must be up.</source><translation>Die Achse der Datei, die oben sein muss.</translation></message>
<message><source>The file axis that points up; guess: the likeliest by the file and the folder it came in.</source><translation>Die Achse der Datei, die nach oben zeigt; guess: die wahrscheinlichste nach der Datei und dem Ordner, in dem sie kam.</translation></message>
<message><source>The file axis that the model's front faces; guess, likewise.</source><translation>Die Achse der Datei, nach der die Vorderseite schaut; guess ebenso.</translation></message>
<message><source>The file declares no unit.</source><translation>Die Datei erklärt keine Einheit.</translation></message>
<message><source>The file declares {unit}.</source><translation>Die Datei erklärt {unit}.</translation></message>
<message><source>The file may be read in any unit</source><translation>Die Datei darf in jeder Einheit gelesen werden</translation></message>
<message><source>The file's {a} is up</source><translation>{a} der Datei ist oben</translation></message>
<message><source>The file's {w} points up</source><translation>{w} der Datei zeigt nach oben</translation></message>
<message><source>The front faces the file's {w}</source><translation>Die Vorderseite schaut nach {w} der Datei</translation></message>
<message><source>The grid</source><translation>Das Gitter</translation></message>
<message><source>The height it shall have, bottom to top.</source><translation>Die Höhe, die es haben soll, von unten nach oben.</translation></message>
<message><source>The height that what is taken shall have.</source><translation>Die Höhe, die das Genommene haben soll.</translation></message>
<message><source>The length from one corner of its box to the opposite one</source><translation>Die Länge von einer Ecke seines Kastens zur gegenüberliegenden</translation></message>
<message><source>The length it shall have</source><translation>Die Länge, die es haben soll</translation></message>
<message><source>The length of its box's diagonal.</source><translation>Die Länge der Diagonale seines Kastens.</translation></message>
<message><source>The length of its longest extent.</source><translation>Die Länge seiner längsten Ausdehnung.</translation></message>
<message><source>The length of the longest of the three</source><translation>Die Länge der längsten der drei</translation></message>
<message><source>The length that this span shall be; all is sized with it</source><translation>Die Länge, die dieser Abstand haben soll; alles wird damit bemessen</translation></message>
<message><source>The lowest point comes to height 0</source><translation>Der tiefste Punkt kommt auf Höhe 0</translation></message>
<message><source>The manual</source><translation>Das Handbuch</translation></message>
<message><source>The marks and datums of the sheet: name, use, line up or forget them</source><translation>Die Marken und Bezüge des Blatts: benennen, verwenden, ausrichten oder vergessen</translation></message>
<message><source>The mean of its vertices</source><translation>Der Mittelwert seiner Eckpunkte</translation></message>
<message numerus="yes"><source>The mean of {count} vertices.</source><translation><numerusform>Der Mittelwert von {count} Eckpunkt.</numerusform><numerusform>Der Mittelwert von {count} Eckpunkten.</numerusform></translation></message>
<message><source>The middle of its bottom</source><translation>Die Mitte seiner Unterseite</translation></message>
<message><source>The middle of its box</source><translation>Die Mitte seines Kastens</translation></message>
<message><source>The middle of its box stays in place</source><translation>Die Mitte seines Kastens bleibt an Ort und Stelle</translation></message>
<message><source>The middle of its box's bottom</source><translation>Die Mitte der Unterseite seines Kastens</translation></message>
<message><source>The middle of the bottom of its box stays in place</source><translation>Die Mitte der Unterseite seines Kastens bleibt an Ort und Stelle</translation></message>
<message><source>The module</source><translation>Das Modul</translation></message>
<message><source>The named parts move together, by their common box.</source><translation>Die genannten Teile bewegen sich zusammen, nach ihrem gemeinsamen Kasten.</translation></message>
<message><source>The new key</source><translation>Die neue Taste</translation></message>
<message><source>The next asset you click, in the list, the Bench or the line-up, is the one to match</source><translation>Das nächste angeklickte Modell, in der Liste, auf der Werkbank oder in der Aufstellung, ist das zum Angleichen</translation></message>
<message><source>The next step</source><translation>Der nächste Schritt</translation></message>
<message><source>The node they hang from, by name; null for none.</source><translation>Der Knoten, an dem sie hängen, nach seinem Namen; null für keinen.</translation></message>
<message><source>The numbers are taken for metres until you say what they are.</source><translation>Die Zahlen gelten als Meter, bis gesagt ist, was sie sind.</translation></message>
<message><source>The numbers of the sheet would be read along other axes, and these would mean other places:</source><translation>Die Zahlen des Blatts würden entlang anderer Achsen gelesen, und diese bedeuteten andere Orte:</translation></message>
<message><source>The other extents follow in proportion</source><translation>Die anderen Ausdehnungen folgen im Verhältnis</translation></message>
<message><source>The other extents give way</source><translation>Die anderen Ausdehnungen geben nach</translation></message>
<message><source>The other extents give way, so that the volume stays</source><translation>Die anderen Ausdehnungen geben nach, sodass das Volumen bleibt</translation></message>
<message><source>The page</source><translation>Die Seite</translation></message>
<message><source>The part that it hangs from: of that asset, or of the one at hand.</source><translation>Das Teil, an dem es hängt: von jenem Modell, oder von dem, um das es gerade geht.</translation></message>
<message><source>The parts and groups that are picked in the hierarchy or the view; Ctrl picks several</source><translation>Die Teile und Gruppen, die in der Hierarchie oder der Ansicht gewählt sind; Strg wählt mehrere</translation></message>
<message><source>The parts and groups whose name fits a pattern</source><translation>Die Teile und Gruppen, deren Name zu einem Muster passt</translation></message>
<message><source>The parts that it does not fit stay as they are</source><translation>Die Teile, auf die er nicht passt, bleiben, wie sie sind</translation></message>
<message><source>The pivot is the middle of its box</source><translation>Der Drehpunkt ist die Mitte seines Kastens</translation></message>
<message><source>The pivot is the middle of its box's bottom</source><translation>Der Drehpunkt ist die Mitte der Unterseite seines Kastens</translation></message>
<message><source>The pivot may be anywhere</source><translation>Der Drehpunkt darf irgendwo sein</translation></message>
<message><source>The pivot's axes stay</source><translation>Die Achsen des Drehpunkts bleiben</translation></message>
<message><source>The pivot's axes: kept, the world's, the parent's, a datum's, brought round, turned, half a turn about one of them, at the nearest right angles (square), or as received.</source><translation>Die Achsen des Drehpunkts: behalten, die der Welt, des Übergeordneten, eines Bezugs, herumgebracht, gedreht, eine halbe Drehung um eine von ihnen, an den nächsten rechten Winkeln (square), oder wie erhalten.</translation></message>
<message><source>The point chosen below comes to 0, 0, 0</source><translation>Der unten gewählte Punkt kommt auf 0, 0, 0</translation></message>
<message><source>The prep sheet</source><translation>Das Vorbereitungsblatt</translation></message>
<message><source>The prep sheet is empty. Go to a stage, try something, and keep it: that is step 1.</source><translation>Das Vorbereitungsblatt ist leer. Zu einer Stufe gehen, etwas versuchen und behalten: das ist Schritt 1.</translation></message>
<message><source>The prep sheet is not saved: {there}.</source><translation>Das Vorbereitungsblatt ist nicht gespeichert: {there}.</translation></message>
<message><source>The range its depth must lie in.</source><translation>Der Bereich, in dem seine Tiefe liegen muss.</translation></message>
<message><source>The range its height must lie in.</source><translation>Der Bereich, in dem seine Höhe liegen muss.</translation></message>
<message><source>The range its width must lie in.</source><translation>Der Bereich, in dem seine Breite liegen muss.</translation></message>
<message><source>The report is in {path}</source><translation>Der Bericht ist in {path}</translation></message>
<message><source>The rotation channel as the file holds it: x, y, z, w</source><translation>Der Drehungskanal, wie die Datei ihn hält: x, y, z, w</translation></message>
<message><source>The shelf is empty</source><translation>Das Regal ist leer</translation></message>
<message><source>The shortest first, the figure among its equals</source><translation>Das Kürzeste zuerst, die Figur unter ihresgleichen</translation></message>
<message><source>The step `{{{words}}}` settles it.</source><translation>Der Schritt `{{{words}}}` erledigt es.</translation></message>
<message><source>The step before</source><translation>Der Schritt davor</translation></message>
<message><source>The step goes on for the others</source><translation>Für die anderen geht der Schritt weiter</translation></message>
<message><source>The steps of {stage}</source><translation>Die Schritte der Stufe {stage}</translation></message>
<message><source>The team has agreed what this measures; it does not fit its place otherwise.</source><translation>Das Team hat vereinbart, was das misst; sonst passt es nicht an seinen Ort.</translation></message>
<message><source>The tour is on the demo batch: close what is open first{key}</source><translation>Der Rundgang geht durch den Demostapel: zuerst schließen, was offen ist{key}</translation></message>
<message><source>The tray holds {count}: right click a control, or Ctrl+Enter in the finder, adds to it</source><translation>Die Ablage fasst {count}: Rechtsklick auf ein Bedienelement oder Strg+Eingabe in der Suche legt etwas hinein</translation></message>
<message><source>The unit lengths are shown and typed in, and the grid; geometry never changes by it</source><translation>Die Einheit, in der Längen gezeigt und getippt werden, und das Gitter; die Geometrie ändert sich nie dadurch</translation></message>
<message><source>The unit the file must be read in.</source><translation>Die Einheit, in der die Datei gelesen sein muss.</translation></message>
<message><source>The unit the file was made in: m, cm, mm, km, in, ft, yd, metres per unit, declared, or guess: the likeliest by the file and by the folder it came in.</source><translation>Die Einheit, in der die Datei gemacht ist: m, cm, mm, km, in, ft, yd, Meter je Einheit, declared, oder guess: die wahrscheinlichste nach der Datei und dem Ordner, in dem sie kam.</translation></message>
<message><source>The usual bake: pivots stay where they are</source><translation>Das übliche Einrechnen: Drehpunkte bleiben, wo sie sind</translation></message>
<message><source>The vertices at one side of each part's box</source><translation>Die Eckpunkte an einer Seite des Kastens jedes Teils</translation></message>
<message><source>The vertices between two heights, or along another extent</source><translation>Die Eckpunkte zwischen zwei Höhen, oder entlang einer anderen Ausdehnung</translation></message>
<message><source>The width it shall have, left to right.</source><translation>Die Breite, die es haben soll, von links nach rechts.</translation></message>
<message><source>The width that what is taken shall have.</source><translation>Die Breite, die das Genommene haben soll.</translation></message>
<message><source>The words are other ones from the next start on</source><translation>Ab dem nächsten Start sind die Texte andere</translation></message>
<message><source>The {name} it shall have</source><translation>Wie groß es sein soll: {name}</translation></message>
<message><source>The {name} that what is taken shall have</source><translation>Wie groß das Genommene sein soll: {name}</translation></message>
<message><source>There is a {kind} '{new}' already</source><translation>„{new}“ gibt es schon ({kind})</translation></message>
<message><source>There is no arrangement {name}{did_you_mean}</source><translation>Eine Anordnung {name} gibt es nicht{did_you_mean}</translation></message>
<message><source>There is no datum yet: put one down with D</source><translation>Noch gibt es keinen Bezug: mit D einen ablegen</translation></message>
<message><source>These keys stay as they are: the views, the lists or the instruments take them themselves.</source><translation>Diese Tasten bleiben, wie sie sind: die Ansichten, Listen oder Instrumente nehmen sie selbst.</translation></message>
<message><source>They can't go along: the delivered model would stand without them, or show somebody else's.</source><translation>Sie können nicht mitgehen: das gelieferte Modell stünde ohne sie da oder zeigte fremde.</translation></message>
<message><source>They have no normal: light baking and collision meshes may stumble over them.</source><translation>Sie haben keine Normale: Lichtberechnung und Kollisionsnetze können darüber stolpern.</translation></message>
<message><source>They say the same.</source><translation>Sie sagen dasselbe.</translation></message>
<message><source>Those at the {s} of the box</source><translation>Die an dieser Seite des Kastens: {s}</translation></message>
<message><source>Three points: the angle at the second</source><translation>Drei Punkte: der Winkel am zweiten</translation></message>
<message><source>Throw it away</source><translation>Wegwerfen</translation></message>
<message><source>Title</source><translation>Titel</translation></message>
<message><source>To its parent's pivot</source><translation>Auf den Drehpunkt des Übergeordneten</translation></message>
<message><source>To the nearest right angles</source><translation>Zu den nächsten rechten Winkeln</translation></message>
<message><source>To the nearest right angles of the world</source><translation>Zu den nächsten rechten Winkeln der Welt</translation></message>
<message><source>To the nearest right angles.</source><translation>Zu den nächsten rechten Winkeln.</translation></message>
<message><source>To the nearest right angles; an asset by its faces</source><translation>Zu den nächsten rechten Winkeln; ein Modell nach seinen Flächen</translation></message>
<message><source>To the origin</source><translation>Auf den Ursprung</translation></message>
<message><source>To the origin and onto the ground</source><translation>Auf den Ursprung und auf den Boden</translation></message>
<message><source>To the other side: mirrored across the middle of the asset's width</source><translation>Auf die andere Seite: gespiegelt an der Mitte der Breite des Modells</translation></message>
<message><source>To the picked pivot, or the origin</source><translation>Zum gewählten Drehpunkt oder zum Ursprung</translation></message>
<message><source>Tour, {k} of {total}: {title}</source><translation>Rundgang, {k} von {total}: {title}</translation></message>
<message><source>Toward the {s}</source><translation>Zur Seite: {s}</translation></message>
<message><source>Try it, see it, keep it</source><translation>Versuchen, ansehen, behalten</translation></message>
<message><source>Try the step that settles it for all of them</source><translation>Den Schritt versuchen, der es für alle erledigt</translation></message>
<message><source>Try {title}</source><translation>{title} versuchen</translation></message>
<message><source>Turn</source><translation>Drehen</translation></message>
<message><source>Turn</source><comment>stage</comment><translation>Drehen</translation></message>
<message><source>Turn by angles about a centre</source><translation>Um Winkel um eine Mitte drehen</translation></message>
<message><source>Turn its axes about {a}</source><translation>Seine Achsen um {a} drehen</translation></message>
<message><source>Turn its axes where it is</source><translation>Seine Achsen an Ort und Stelle drehen</translation></message>
<message><source>Turn taken {a}</source><translation>Genommenes drehen {a}</translation></message>
<message><source>Turn the camera; walk a list or the stages</source><translation>Die Kamera drehen; durch eine Liste oder die Stufen gehen</translation></message>
<message><source>Turn them about a centre</source><translation>Sie um eine Mitte drehen</translation></message>
<message><source>Turn what is selected about the centre in force</source><translation>Ausgewähltes um die geltende Mitte drehen</translation></message>
<message><source>Turn {angles}</source><translation>Drehen {angles}</translation></message>
<message><source>Turn: guess, {up} is up, {front} is front</source><translation>Drehen: Vermutung, {up} ist oben, {front} ist vorn</translation></message>
<message><source>Turned about a point outside itself, a hinge swings the part through the wall.</source><translation>Um einen Punkt außerhalb gedreht, schwenkt ein Scharnier das Teil durch die Wand.</translation></message>
<message><source>Two points, x, y, z each or a mark, whose distance shall become the length.</source><translation>Zwei Punkte, je x, y, z oder eine Marke, deren Abstand die Länge werden soll.</translation></message>
<message><source>Two points: how far apart, in all and along each axis</source><translation>Zwei Punkte: ihr Abstand, im Ganzen und entlang jeder Achse</translation></message>
<message><source>Type how wide, high or deep it shall be; the factor is found</source><translation>Tippen, wie breit, hoch oder tief es sein soll; der Faktor findet sich</translation></message>
<message><source>Type where it is…</source><translation>Tippen, wo er ist …</translation></message>
<message><source>Typed…</source><translation>Getippt …</translation></message>
<message><source>USD binary</source><translation>USD binär</translation></message>
<message><source>USD can't name {up} up and {front} front: it is written in metres, Y up</source><translation>USD kann nicht {up} oben und {front} vorn nennen: es wird in Metern geschrieben, Y oben</translation></message>
<message><source>USD holds no '{name}': it is called '{name_2}'</source><translation>USD kennt keinen Namen „{name}“: Es heißt „{name_2}“</translation></message>
<message><source>USD holds no '{name}': it is called '{name_2}', and {count} more likewise</source><translation>USD kennt keinen Namen „{name}“: Es heißt „{name_2}“, {count} weitere ebenso</translation></message>
<message><source>USD package</source><translation>USD-Paket</translation></message>
<message><source>USD text</source><translation>USD als Text</translation></message>
<message><source>Undid: {label}</source><translation>Rückgängig gemacht: {label}</translation></message>
<message><source>Undo</source><translation>Rückgängig</translation></message>
<message><source>Unit of the files, and of bare numbers on the sheet. auto: as the file declares it; metres where its format declares none</source><translation>Einheit der Dateien und der bloßen Zahlen auf dem Blatt. auto: wie die Datei sie angibt; Meter, wo ihr Format keine angibt</translation></message>
<message><source>Unit: guess, {unit}</source><translation>Einheit: Vermutung, {unit}</translation></message>
<message><source>Unit: guess; nothing to judge by</source><translation>Einheit: Vermutung; nichts, wonach zu urteilen wäre</translation></message>
<message><source>Unit: {reads}</source><translation>Einheit: {reads}</translation></message>
<message><source>Units that wait</source><translation>Einheiten, die warten</translation></message>
<message><source>Unticked, a pick leaves the pivot's {axis} as it is</source><translation>Ohne Haken lässt eine Wahl {axis} des Drehpunkts, wie es ist</translation></message>
<message><source>Unticked, {axis} stays as it is</source><translation>Ohne Haken bleibt {axis}, wie es ist</translation></message>
<message><source>Up axis of the files, and of the sheet's numbers. auto: as the file declares it; +Y where its format declares none</source><translation>Hochachse der Dateien und der Zahlen des Blatts. auto: wie die Datei sie angibt; +Y, wo ihr Format keine angibt</translation></message>
<message><source>Up {up}, front {front}</source><translation>Oben {up}, vorn {front}</translation></message>
<message><source>Use it</source><translation>Verwenden</translation></message>
<message><source>Use no size book</source><translation>Kein Maßbuch verwenden</translation></message>
<message><source>Use none</source><translation>Keines verwenden</translation></message>
<message><source>Use the last datum, or put it aside</source><translation>Den letzten Bezug verwenden oder weglegen</translation></message>
<message><source>Vertex {number}</source><translation>Eckpunkt {number}</translation></message>
<message><source>Vertices are moved, turned and sized: that is something else</source><translation>Eckpunkte werden bewegt, gedreht und bemessen: das ist etwas anderes</translation></message>
<message><source>Walk a row of buttons, which is one stop of Tab's</source><translation>Eine Reihe von Knöpfen entlanggehen, die für Tab ein Halt ist</translation></message>
<message><source>Walk the box points back and to the front</source><translation>Durch die Kastenpunkte nach hinten und nach vorn gehen</translation></message>
<message><source>Wavefront OBJ</source><translation>Wavefront OBJ</translation></message>
<message><source>What came in</source><translation>Was hereinkam</translation></message>
<message><source>What came in, and what is not true of it</source><translation>Was hereinkam, und was daran nicht stimmt</translation></message>
<message><source>What came in, made true</source><translation>Was hereinkam, richtig gemacht</translation></message>
<message><source>What can be found, why it matters, and what settles it</source><translation>Was gefunden werden kann, warum es zählt und was es erledigt</translation></message>
<message><source>What counts to the box of a part or group, and along which axes it is measured</source><translation>Was zum Kasten eines Teils oder einer Gruppe zählt, und entlang welcher Achsen er gemessen wird</translation></message>
<message><source>What differs, step by step: at hand → on the shelf</source><translation>Was abweicht, Schritt für Schritt: vorliegend → im Regal</translation></message>
<message><source>What each asset should measure, as lengths with units; blank is open. The first pattern holds.</source><translation>Was jedes Modell messen soll, als Längen mit Einheit; leer ist offen. Das erste Muster gilt.</translation></message>
<message><source>What follows when one extent is given, as in size.</source><translation>Was folgt, wenn eine Ausdehnung angegeben ist, wie in size.</translation></message>
<message><source>What follows when one extent is given: all, nothing, or the others giving way.</source><translation>Was folgt, wenn eine Ausdehnung angegeben ist: alles, nichts, oder die anderen geben nach.</translation></message>
<message><source>What goes together: other assets have parts of the names that are picked</source><translation>Was miteinander geht: Andere Modelle haben Teile mit den Namen der ausgewählten</translation></message>
<message><source>What is aimed at hangs from that node from then on; nothing moves</source><translation>Das Gemeinte hängt von da an an diesem Knoten; nichts bewegt sich</translation></message>
<message><source>What is brought round: a signed axis, a direction, or a mark's way.</source><translation>Was herumgebracht wird: eine Achse mit Vorzeichen, eine Richtung, oder die einer Marke.</translation></message>
<message><source>What is clicked or framed in the view</source><translation>Was in der Ansicht angeklickt oder gerahmt wird</translation></message>
<message><source>What is copied is no point: three lengths, such as 12.4 m, 0 m, -3.2 m</source><translation>Was kopiert ist, ist kein Punkt: drei Längen, etwa 12,4 m; 0 m; -3,2 m</translation></message>
<message><source>What is found</source><translation>Was gefunden ist</translation></message>
<message><source>What is seldom needed</source><translation>Was selten gebraucht wird</translation></message>
<message><source>What is settled about the window can't be kept between runs ({trouble})</source><translation>Was am Fenster eingestellt ist, lässt sich nicht von Lauf zu Lauf behalten ({trouble})</translation></message>
<message><source>What it does, or a key…</source><translation>Was es tut, oder eine Taste …</translation></message>
<message><source>What it is called</source><translation>Wie sie heißen soll</translation></message>
<message><source>What it is called there</source><translation>Wie es dort heißen soll</translation></message>
<message><source>What it is for, exceptions, a note…	E</source><translation>Wofür er ist, Ausnahmen, eine Notiz …	E</translation></message>
<message><source>What it is set onto</source><translation>Worauf es gesetzt wird</translation></message>
<message><source>What it is: a vertex, an edge, a face or a circle.</source><translation>Was sie ist: ein Eckpunkt, eine Kante, eine Fläche oder ein Kreis.</translation></message>
<message><source>What names one of them means them all; NAME#2 names the second.</source><translation>Wer eines davon nennt, meint alle; NAME#2 nennt das zweite.</translation></message>
<message><source>What needs attention first</source><translation>Was zuerst Zuwendung braucht</translation></message>
<message><source>What of it matches nothing in the batch that is open</source><translation>Was davon auf nichts im offenen Stapel zutrifft</translation></message>
<message><source>What one is called</source><translation>Wie eines heißt</translation></message>
<message><source>What stays in place while what is tried moves all else about it</source><translation>Was an Ort und Stelle bleibt, während der Versuch alles andere darum bewegt</translation></message>
<message><source>What stays in place, and along which axes extents and factors are taken</source><translation>Was an Ort und Stelle bleibt, und entlang welcher Achsen Ausdehnungen und Faktoren gelten</translation></message>
<message><source>What stays in place, and along which axes numbers are</source><translation>Was an Ort und Stelle bleibt, und entlang welcher Achsen Zahlen gelten</translation></message>
<message><source>What stays in place: base (of assets), pivot (of named parts)…</source><translation>Was an Ort und Stelle bleibt: base (bei Modellen), pivot (bei genannten Teilen) …</translation></message>
<message><source>What stays in place; the middle of what is taken where not given.</source><translation>Was an Ort und Stelle bleibt; die Mitte des Genommenen, wenn nicht angegeben.</translation></message>
<message><source>What stays in place; the pivot where not given.</source><translation>Was an Ort und Stelle bleibt; der Drehpunkt, wenn nicht angegeben.</translation></message>
<message><source>What the format can't hold is gone in the delivered file.</source><translation>Was das Format nicht halten kann, fehlt in der gelieferten Datei.</translation></message>
<message><source>What the right button offers</source><translation>Was die rechte Taste anbietet</translation></message>
<message><source>What the scene is called beside the delivered files: usda and usdc refer to them, glb copies</source><translation>Wie die Szene neben den gelieferten Dateien heißt: usda und usdc verweisen auf sie, glb kopiert</translation></message>
<message><source>What the sheet does, in order</source><translation>Was das Blatt tut, der Reihe nach</translation></message>
<message><source>What the sheet says</source><translation>Was das Blatt sagt</translation></message>
<message><source>What this step leaves out, and what is to be said of it</source><translation>Was dieser Schritt auslässt, und was dazu zu sagen ist</translation></message>
<message><source>What turns and sizes happen about; to pick it in the view</source><translation>Worum gedreht und bemessen wird; zum Wählen in der Ansicht</translation></message>
<message><source>What turns snap to while they are dragged; Shift snaps to nothing</source><translation>Woran Drehungen beim Ziehen einrasten; Umschalt rastet an nichts</translation></message>
<message><source>What was said</source><translation>Was gesagt wurde</translation></message>
<message><source>What was said…</source><translation>Was gesagt wurde …</translation></message>
<message><source>What you do can't be kept against a crash ({why}): save the sheet yourself</source><translation>Die Arbeit lässt sich nicht gegen einen Absturz sichern ({why}): das Blatt selbst speichern</translation></message>
<message><source>What you keep becomes a card here, in order. Click a card to see the batch as it stood after it and to change it; drag it elsewhere. Saved, the sheet does the same to tomorrow's batch, from here or from the command line.</source><translation>Was behalten wird, wird hier der Reihe nach zur Karte. Ein Klick auf eine Karte zeigt den Stapel, wie er nach ihr stand, und lässt sie ändern; ziehen setzt sie anderswohin. Gespeichert tut das Blatt dasselbe mit dem Stapel von morgen, von hier oder von der Befehlszeile aus.</translation></message>
<message><source>Where it is brought: a side, a signed axis, a direction, or a mark's way.</source><translation>Wohin es gebracht wird: eine Seite, eine Achse mit Vorzeichen, eine Richtung, oder die einer Marke.</translation></message>
<message><source>Where it is: x, y, z, such as 1.2 m, 0, -40 cm</source><translation>Wo er ist: x, y, z, etwa 1,2 m; 0; -40 cm</translation></message>
<message><source>Where it was in its geometry, as the file had it</source><translation>Wo er in seiner Geometrie war, wie die Datei ihn hatte</translation></message>
<message><source>Where its pivot must be on its box.</source><translation>Wo sein Drehpunkt an seinem Kasten sein muss.</translation></message>
<message><source>Where the new files go; it must lie apart from the folder they came from</source><translation>Wohin die neuen Dateien gehen; er muss getrennt von dem Ordner liegen, aus dem sie kamen</translation></message>
<message><source>Where the pointer is on the model or the ground, in world coordinates</source><translation>Wo der Zeiger auf dem Modell oder dem Boden ist, in Weltkoordinaten</translation></message>
<message><source>Where things turn about</source><translation>Worum sich Dinge drehen</translation></message>
<message><source>Where to: the origin, the parent's pivot, x, y, z, a part's pivot, a mark, a berth, onto another asset or part; with of, a point, part or mark of another asset.</source><translation>Wohin: an den Ursprung, den Drehpunkt des Übergeordneten, x, y, z, den Drehpunkt eines Teils, eine Marke, einen Liegeplatz, auf ein anderes Modell oder Teil; mit of an einen Punkt, ein Teil oder eine Marke eines anderen Modells.</translation></message>
<message><source>Which asset stands at which berth, or berths.</source><translation>Welches Modell an welchem Liegeplatz steht, oder an welchen.</translation></message>
<message><source>Which assets stand in rows.</source><translation>Welche Modelle in Reihen stehen.</translation></message>
<message><source>Which channels: any of rotation, scale, location.</source><translation>Welche Kanäle: beliebige von rotation, scale, location.</translation></message>
<message><source>Which channels: any of rotation, scale, location. Location sends pivots to the parent's.</source><translation>Welche Kanäle: beliebige von rotation, scale, location. Location schickt Drehpunkte auf den des Übergeordneten.</translation></message>
<message><source>Which point of it goes there: base for assets, pivot for named parts, where not given.</source><translation>Welcher Punkt davon dorthin geht: base bei Modellen, pivot bei genannten Teilen, wenn nicht angegeben.</translation></message>
<message><source>Which point of its box goes there</source><translation>Welcher Punkt seines Kastens dorthin geht</translation></message>
<message><source>Which point of what it is set onto</source><translation>Welcher Punkt dessen, worauf es gesetzt wird</translation></message>
<message><source>Which unit a file was made in, and how large it shall be</source><translation>In welcher Einheit eine Datei gemacht ist, und wie groß es sein soll</translation></message>
<message><source>Which vertices: those at a side, in a slab, of a mark, or by their numbers.</source><translation>Welche Eckpunkte: die an einer Seite, in einer Scheibe, an einer Marke, oder nach ihren Nummern.</translation></message>
<message><source>Which way a face faces, an edge runs, a circle's axis points: a side, axis or direction.</source><translation>Wohin eine Fläche schaut, eine Kante läuft, die Achse eines Kreises zeigt: eine Seite, Achse oder Richtung.</translation></message>
<message><source>Which way a row goes: to the right, or to the front.</source><translation>Wohin eine Reihe geht: nach rechts oder nach vorn.</translation></message>
<message><source>Which way is up and which is front</source><translation>Welche Richtung oben und welche vorn ist</translation></message>
<message><source>Whoever opens the file later may show them: they have not been measured, and stand where they stood.</source><translation>Wer die Datei später öffnet, mag sie zeigen: sie sind nicht vermessen und stehen, wo sie standen.</translation></message>
<message><source>Whose axes the angles are told against: its own rotation channel, or the world, another part, a datum</source><translation>Gegen wessen Achsen die Winkel genannt sind: den eigenen Drehungskanal, die Welt, ein anderes Teil, einen Bezug</translation></message>
<message><source>Whose axes the coordinates are told along; switched after the fact</source><translation>Entlang welcher Achsen die Koordinaten genannt werden; auch im Nachhinein umgestellt</translation></message>
<message><source>Whose box: its own geometry (default for parts), or with all below (for groups).</source><translation>Wessen Kasten: die eigene Geometrie (üblich bei Teilen), oder mit allem darunter (bei Gruppen).</translation></message>
<message><source>Whose origin and axes the numbers below are told in; the step keeps the world's</source><translation>In wessen Ursprung und Achsen die Zahlen unten genannt sind; der Schritt behält die der Welt</translation></message>
<message><source>Within</source><translation>Innerhalb</translation></message>
<message><source>Without it, a file that is there already stops the delivery before anything is written</source><translation>Ohne das hält eine Datei, die schon da ist, die Lieferung auf, bevor etwas geschrieben wird</translation></message>
<message><source>Without this, an asset to which it can't be done exactly is not delivered</source><translation>Ohne das wird ein Modell, an dem er nicht genau gelingt, nicht geliefert</translation></message>
<message><source>Words as the desktop has them</source><translation>Text wie auf dem Desktop</translation></message>
<message><source>Work on {names} was not closed: {there}.</source><translation>Die Arbeit an {names} wurde nicht geschlossen: {there}.</translation></message>
<message><source>Write every included asset, re-open each file and hold it against what it should be</source><translation>Jedes aufgenommene Modell schreiben, jede Datei wieder öffnen und mit dem vergleichen, was sie sein soll</translation></message>
<message><source>Write new files and prove them</source><translation>Neue Dateien schreiben und beweisen</translation></message>
<message><source>Write new files, re-open each, and hold it against what it should be</source><translation>Neue Dateien schreiben, jede wieder öffnen und mit dem vergleichen, was sie sein soll</translation></message>
<message><source>Write over it</source><translation>Überschreiben</translation></message>
<message><source>Write the book to a CSV file</source><translation>Das Buch in eine CSV-Datei schreiben</translation></message>
<message><source>a berth</source><translation>ein Liegeplatz</translation></message>
<message><source>a buffer declares {item} bytes, over the limit</source><translation>ein Buffer erklärt {item} Bytes, mehr als die Grenze</translation></message>
<message><source>a coordinate is the world's</source><translation>eine Koordinate ist eine der Welt</translation></message>
<message><source>a face has a corner that can't be read</source><translation>eine Fläche hat eine Ecke, die sich nicht lesen lässt</translation></message>
<message><source>a face has a corner without a vertex number</source><translation>eine Fläche hat eine Ecke ohne Eckpunktnummer</translation></message>
<message><source>a face names a vertex that is not there (there are {count})</source><translation>eine Fläche nennt einen Eckpunkt, der nicht da ist (es gibt {count})</translation></message>
<message><source>a face names vertex {worst}, which is not there (there are {vertices})</source><translation>eine Fläche nennt Eckpunkt {worst}, der nicht da ist (es gibt {vertices})</translation></message>
<message><source>a factor is one positive number, or three along x, y, z, not {value}</source><translation>ein Faktor ist eine positive Zahl, oder drei entlang x, y, z, nicht {value}</translation></message>
<message><source>a fault of ours: {error}; please report it</source><translation>ein Fehler von uns: {error}; bitte melden</translation></message>
<message><source>a fraction of {word} lies too far outside</source><translation>ein Bruchteil von {word} liegt zu weit außerhalb</translation></message>
<message><source>a gap is no less than nothing, not {value}</source><translation>ein Abstand ist nicht weniger als nichts, nicht {value}</translation></message>
<message><source>a length to size to must be longer than nothing, not {value}</source><translation>eine Länge, auf die bemessen wird, muss länger als nichts sein, nicht {value}</translation></message>
<message><source>a list called '{next}'</source><translation>eine Liste namens „{next}“</translation></message>
<message><source>a list of </source><translation>eine Liste von </translation></message>
<message><source>a mark is a point already: 'point' goes with an asset or a part</source><translation>eine Marke ist schon ein Punkt: „point“ gehört zu einem Modell oder Teil</translation></message>
<message><source>a mesh of it would be drawn smoother than it is</source><translation>ein Netz davon würde glatter gezeichnet, als es ist</translation></message>
<message><source>a module must be longer than nothing, not {value}</source><translation>ein Modul muss länger als nichts sein, nicht {value}</translation></message>
<message><source>a number</source><translation>eine Zahl</translation></message>
<message><source>a picked face or edge</source><translation>Fläche oder Kante</translation></message>
<message><source>a point</source><translation>einen Punkt</translation></message>
<message><source>a point of its box</source><translation>ein Punkt seines Kastens</translation></message>
<message><source>a point on the first arm</source><translation>einen Punkt auf dem ersten Schenkel</translation></message>
<message><source>a point on the second arm</source><translation>einen Punkt auf dem zweiten Schenkel</translation></message>
<message><source>a point or line has a corner without a vertex number</source><translation>ein Punkt oder eine Linie hat eine Ecke ohne Eckpunktnummer</translation></message>
<message><source>a polygon names {semantic} {max}, which is not there (there are {there})</source><translation>ein Vieleck nennt {semantic} {max}, was nicht da ist (es gibt {there})</translation></message>
<message><source>a range needs min, max, or both</source><translation>ein Bereich braucht min, max oder beide</translation></message>
<message><source>a rare size</source><translation>eine seltene Größe</translation></message>
<message><source>a reading is of the file, it takes no parts</source><translation>eine Lesart ist eine der Datei, sie nimmt keine parts</translation></message>
<message><source>a set-out needs 'at', 'row', or both: nothing would stand in it</source><translation>ein Aufbau braucht „at“, „row“ oder beides: sonst stünde nichts darin</translation></message>
<message><source>a shape without points</source><translation>eine Form ohne Punkte</translation></message>
<message><source>a share lies between 0 and 100 %</source><translation>ein Anteil liegt zwischen 0 und 100 %</translation></message>
<message><source>a share lies between 0 and 100 %, not at {value}</source><translation>ein Anteil liegt zwischen 0 und 100 %, nicht bei {value}</translation></message>
<message><source>a side</source><translation>eine Seite</translation></message>
<message><source>a slab</source><translation>eine Scheibe</translation></message>
<message><source>a slab is from a length, to one, or both</source><translation>eine Scheibe geht von einer Länge, bis zu einer, oder beides</translation></message>
<message><source>a slab lies along one extent, not from a {given} to a {given_2}</source><translation>eine Scheibe liegt entlang einer Ausdehnung, nicht von {given} bis {given_2}</translation></message>
<message><source>a slant goes into the geometry</source><translation>eine Schräge geht in die Geometrie</translation></message>
<message><source>a step being tried</source><translation>ein Schritt im Versuch</translation></message>
<message><source>a strip names a vertex that is not there (there are {vertices})</source><translation>ein Streifen nennt einen Eckpunkt, der nicht da ist (es gibt {vertices})</translation></message>
<message><source>a usual size</source><translation>eine übliche Größe</translation></message>
<message><source>a vertex has neither way nor size</source><translation>ein Eckpunkt hat weder Richtung noch Größe</translation></message>
<message><source>about</source><translation>um</translation></message>
<message><source>about a point</source><translation>um einen Punkt</translation></message>
<message><source>about goes with a turn: a reading has no centre</source><translation>about gehört zu einer Drehung: eine Lesart hat keine Mitte</translation></message>
<message><source>about goes with turn, factor or extents</source><translation>about gehört zu turn, factor oder Ausdehnungen</translation></message>
<message><source>about {about}</source><translation>um {about}</translation></message>
<message><source>about: its pivot</source><translation>um: sein Drehpunkt</translation></message>
<message><source>about: {about} is of several parts: it needs parts</source><translation>about: {about} ist für mehrere Teile: es braucht parts</translation></message>
<message><source>accessor {accessor} does not hold {width} finite numbers for each key</source><translation>Accessor {accessor} enthält nicht {width} endliche Zahlen je Schlüssel</translation></message>
<message><source>accessor {index}</source><translation>Accessor {index}</translation></message>
<message><source>accessor {index} is not there (there are {count})</source><translation>Accessor {index} ist nicht da (es gibt {count})</translation></message>
<message><source>accessor {index} {k}</source><translation>Accessor {index} {k}</translation></message>
<message><source>across {extent}</source><translation>quer zu {extent}</translation></message>
<message><source>action</source><translation>Handlung</translation></message>
<message><source>after</source><translation>nachher</translation></message>
<message><source>against the one at hand</source><translation>gegen das vorliegende</translation></message>
<message><source>align flat lay down</source><comment>other words</comment><translation>ausrichten flach hinlegen</translation></message>
<message><source>align match orientation</source><comment>other words</comment><translation>ausrichten angleichen Lage</translation></message>
<message><source>align straighten level</source><comment>other words</comment><translation>ausrichten gerade waagerecht</translation></message>
<message><source>all</source><translation>alle</translation></message>
<message><source>all</source><comment>extents</comment><translation>alle</translation></message>
<message><source>all as {title}</source><translation>alle als {title}</translation></message>
<message><source>all below it</source><translation>alles darunter</translation></message>
<message><source>all follows</source><translation>alles folgt</translation></message>
<message><source>all stand {offset} off their origins, one way</source><translation>alle stehen {offset} neben ihrem Ursprung, in einer Richtung</translation></message>
<message><source>all that hangs together of {whose}</source><translation>alles, was an {whose} zusammenhängt</translation></message>
<message><source>all together, Tab: each</source><translation>alle zusammen, Tab: jedes</translation></message>
<message><source>all true</source><translation>alles stimmt</translation></message>
<message><source>all {total}</source><translation>alle {total}</translation></message>
<message><source>all × {factor}</source><translation>alle × {factor}</translation></message>
<message><source>all: true is of a step for parts that names a mark</source><translation>all: true gehört zu einem Schritt für Teile, der eine Marke nennt</translation></message>
<message><source>along</source><translation>entlang</translation></message>
<message><source>along </source><translation>entlang </translation></message>
<message><source>along axes</source><translation>entlang der Achsen</translation></message>
<message><source>along datum '{datum}'</source><translation>entlang Bezug „{datum}“</translation></message>
<message><source>along goes with a factor, with extents, or with match</source><translation>along gehört zu einem Faktor, zu Ausdehnungen oder zu match</translation></message>
<message><source>along goes with by</source><translation>along gehört zu by</translation></message>
<message><source>along goes with by, turn, factor or extents: set is along the delivery axes</source><translation>along gehört zu by, turn, factor oder Ausdehnungen: set geht entlang der Lieferachsen</translation></message>
<message><source>along goes with shift</source><translation>along gehört zu shift</translation></message>
<message><source>along its</source><translation>entlang seiner</translation></message>
<message><source>along own axes</source><translation>entlang der eigenen Achsen</translation></message>
<message><source>along the axes of</source><translation>entlang der Achsen</translation></message>
<message><source>along the parent's axes</source><translation>entlang der Achsen des Übergeordneten</translation></message>
<message><source>along {axes}</source><translation>entlang {axes}</translation></message>
<message><source>along: parent needs parts: an asset has no parent</source><translation>along: parent braucht parts: ein Modell hat kein Übergeordnetes</translation></message>
<message><source>along: world</source><translation>entlang: Welt</translation></message>
<message><source>along: {along} needs of: parts, groups or all</source><translation>along: {along} braucht of: parts, groups oder all</translation></message>
<message><source>along: {along} needs parts</source><translation>along: {along} braucht parts</translation></message>
<message><source>an angle is not finite</source><translation>ein Winkel ist nicht endlich</translation></message>
<message><source>an angle is set of a part or group</source><translation>ein Winkel wird an einem Teil oder einer Gruppe gesetzt</translation></message>
<message><source>an edge</source><translation>eine Kante</translation></message>
<message><source>an input of geometry '{get}' names no source</source><translation>eine Eingabe der Geometrie „{get}“ nennt keine Quelle</translation></message>
<message><source>and</source><translation>und</translation></message>
<message><source>and the front faces</source><translation>und die Vorderseite schaut nach</translation></message>
<message><source>and what follows</source><translation>und was folgt</translation></message>
<message><source>and {count} more</source><translation>und {count} weitere</translation></message>
<message><source>angle</source><translation>Winkel</translation></message>
<message><source>angles</source><translation>Winkel</translation></message>
<message><source>animation motion settings preferences</source><comment>other words</comment><translation>Animation Bewegung Einstellungen</translation></message>
<message><source>animation {animation} has {count} values for {count_2} times</source><translation>Animation {animation} hat {count} Werte für {count_2} Zeiten</translation></message>
<message><source>another pick</source><translation>andere Wahl</translation></message>
<message><source>another unit is far more plausible</source><translation>eine andere Einheit ist weit plausibler</translation></message>
<message><source>any</source><translation>frei</translation></message>
<message><source>anything</source><translation>beliebig</translation></message>
<message><source>apex </source><translation>Scheitel </translation></message>
<message><source>appears elsewhere lost far away off-centre jumps rotates orbits</source><comment>symptoms</comment><translation>erscheint anderswo verloren weit weg nicht mittig springt</translation></message>
<message><source>applied</source><translation>angewandt</translation></message>
<message><source>are not what they were</source><translation>sind nicht, was sie waren</translation></message>
<message><source>are {shape} of {shape_2} numbers, for {shape_3} of {shape_4}</source><translation>sind {shape} mal {shape_2} Zahlen statt {shape_3} mal {shape_4}</translation></message>
<message><source>arrangement</source><translation>Anordnung</translation></message>
<message><source>as declared</source><translation>wie erklärt</translation></message>
<message><source>as in the book</source><translation>wie im Buch</translation></message>
<message><source>as in the book, lying</source><translation>wie im Buch, liegend</translation></message>
<message><source>as it is read</source><translation>wie gelesen</translation></message>
<message><source>as it says</source><translation>wie es sagt</translation></message>
<message><source>as long as the same extent of</source><translation>so lang wie dieselbe Ausdehnung von</translation></message>
<message><source>as one</source><translation>als eins</translation></message>
<message><source>as read</source><translation>wie gelesen</translation></message>
<message><source>as received</source><translation>wie erhalten</translation></message>
<message><source>as the file says</source><translation>wie die Datei sagt</translation></message>
<message><source>as they are</source><translation>bleiben</translation></message>
<message><source>as they came</source><translation>wie sie kamen</translation></message>
<message><source>as they were read</source><translation>wie sie gelesen wurden</translation></message>
<message><source>as usual</source><translation>wie üblich</translation></message>
<message><source>as-one is of several parts: it needs parts</source><translation>as-one ist für mehrere Teile: es braucht parts</translation></message>
<message><source>as-one moves by a point of their common box: each one's pivot, parent and axes differ</source><translation>as-one bewegt an einem Punkt ihres gemeinsamen Kastens: Drehpunkt, Übergeordnetes und Achsen hat jedes für sich</translation></message>
<message><source>asset</source><translation>Modell</translation></message>
<message><source>at</source><comment>a point</comment><translation>an</translation></message>
<message><source>at [{at}]{size}</source><translation>bei [{at}]{size}</translation></message>
<message><source>at first</source><translation>am Anfang</translation></message>
<message><source>at least</source><translation>mindestens</translation></message>
<message><source>at least {low}</source><translation>mindestens {low}</translation></message>
<message><source>at most</source><translation>höchstens</translation></message>
<message><source>at most {high}</source><translation>höchstens {high}</translation></message>
<message><source>at the point of its box</source><translation>am Punkt seines Kastens</translation></message>
<message><source>at {numbers}</source><translation>bei {numbers}</translation></message>
<message><source>at {numbers} of the part</source><translation>bei {numbers} des Teils</translation></message>
<message><source>at: a point of a box needs 'of', the asset whose box it is</source><translation>at: ein Punkt eines Kastens braucht „of“, das Modell, dessen Kasten es ist</translation></message>
<message><source>at: parent is for named parts; an asset has no parent</source><translation>at: parent ist für genannte Teile; ein Modell hat kein Übergeordnetes</translation></message>
<message><source>auto</source><translation>auto</translation></message>
<message><source>away and from go together</source><translation>away und from gehören zusammen</translation></message>
<message><source>away from its origin</source><translation>weg von seinem Ursprung</translation></message>
<message><source>axes</source><translation>Achsen</translation></message>
<message><source>axes are of parts and groups; an asset is turned by a turn step</source><translation>axes sind die von Teilen und Gruppen; ein Modell wird mit einem Schritt turn gedreht</translation></message>
<message><source>axes as received</source><translation>Achsen wie erhalten</translation></message>
<message><source>axes of {turned} turned</source><translation>Achsen von {turned} gedreht</translation></message>
<message><source>axes squared</source><translation>Achsen rechtwinklig</translation></message>
<message><source>axes turned {angles}</source><translation>Achsen gedreht {angles}</translation></message>
<message><source>axes {axes}</source><translation>Achsen {axes}</translation></message>
<message><source>axes {datum}</source><translation>Achsen {datum}</translation></message>
<message><source>axis </source><translation>Achse </translation></message>
<message><source>back</source><translation>hinten</translation></message>
<message><source>bake</source><translation>einrechnen</translation></message>
<message><source>baked</source><translation>eingerechnet</translation></message>
<message><source>base</source><translation>Basis</translation></message>
<message><source>base middle</source><translation>Mitte der Unterseite</translation></message>
<message><source>base, middle, mass, mean, origin, parent, children, received, a box point with insets, coordinates, another part's pivot, the centre of a circle through three points, vertices, a datum, a mark, across the asset, or moved on from where it is.</source><translation>base, middle, mass, mean, origin, parent, children, received, ein Kastenpunkt mit Einzügen, Koordinaten, der Drehpunkt eines anderen Teils, die Mitte eines Kreises durch drei Punkte, Eckpunkte, ein Bezug, eine Marke, quer über das Modell, oder verschoben von da, wo er ist.</translation></message>
<message><source>batch</source><translation>Stapel</translation></message>
<message><source>before</source><translation>vorher</translation></message>
<message><source>before you keep it</source><translation>vor dem Behalten</translation></message>
<message><source>before → after</source><translation>vorher → nachher</translation></message>
<message><source>being read</source><translation>wird gelesen</translation></message>
<message><source>berth</source><translation>Liegeplatz</translation></message>
<message><source>berth {berth}</source><translation>Liegeplatz {berth}</translation></message>
<message><source>berth {name}</source><translation>Liegeplatz {name}</translation></message>
<message><source>between and length go together</source><translation>between und length gehören zusammen</translation></message>
<message><source>blade_*, leaf</source><translation>blade_*, leaf</translation></message>
<message><source>bottom</source><translation>unten</translation></message>
<message><source>bottom at {length}</source><translation>Unterkante auf {length}</translation></message>
<message><source>box</source><translation>Kasten</translation></message>
<message><source>box middle</source><translation>Kastenmitte</translation></message>
<message><source>box point</source><translation>Kastenpunkt</translation></message>
<message><source>bring</source><translation>bringen</translation></message>
<message><source>bring and to go together</source><translation>bring und to gehören zusammen</translation></message>
<message><source>bring its axis</source><translation>seine Achse bringen</translation></message>
<message><source>broken corrupt damaged crash missing error</source><comment>symptoms</comment><translation>kaputt beschädigt Absturz fehlt Fehler</translation></message>
<message><source>buffer view {index}</source><translation>Buffer-View {index}</translation></message>
<message><source>buffer {index} has a data URI that can't be decoded</source><translation>Buffer {index} hat eine Daten-URI, die sich nicht entpacken lässt</translation></message>
<message><source>buffer {index} has a data URI that is not base64</source><translation>Buffer {index} hat eine Daten-URI, die kein Base64 ist</translation></message>
<message><source>buffer {index} has a uri that is no text</source><translation>Buffer {index} hat eine URI, die kein Text ist</translation></message>
<message><source>buffer {index} names no file and there is no binary chunk for it</source><translation>Buffer {index} nennt keine Datei, und es gibt kein Binärstück dafür</translation></message>
<message><source>buffer {i} has no byteLength</source><translation>Buffer {i} hat kein byteLength</translation></message>
<message><source>buffer {i} is cut short: it declares {length} bytes and has {count}</source><translation>Buffer {i} ist abgeschnitten: er erklärt {length} Bytes und hat {count}</translation></message>
<message><source>but not</source><translation>außer</translation></message>
<message><source>but not {skip}</source><translation>außer {skip}</translation></message>
<message><source>by</source><translation>um</translation></message>
<message><source>by finding</source><translation>nach Befund</translation></message>
<message><source>by finding, gravest first</source><translation>nach Befund, das Schwerste zuerst</translation></message>
<message><source>by format</source><translation>nach Format</translation></message>
<message><source>by height</source><translation>nach Höhe</translation></message>
<message><source>by itself</source><translation>von selbst</translation></message>
<message><source>by mark {mark}</source><translation>an Marke {mark}</translation></message>
<message><source>by name</source><translation>nach Namen</translation></message>
<message><source>by name…</source><translation>nach Namen …</translation></message>
<message><source>by size, largest first</source><translation>nach Größe, das Größte zuerst</translation></message>
<message><source>by unit, those in doubt first</source><translation>nach Einheit, zweifelhafte zuerst</translation></message>
<message><source>by {point}</source><translation>an {point}</translation></message>
<message><source>camera view</source><comment>other words</comment><translation>Kamera Ansicht</translation></message>
<message><source>cameras and lights keep their direction: {named}</source><translation>Kameras und Lichter behalten ihre Richtung: {named}</translation></message>
<message><source>can't be entered: {strerror}</source><translation>kann nicht betreten werden: {strerror}</translation></message>
<message><source>can't be read</source><translation>kann nicht gelesen werden</translation></message>
<message><source>can't be read, by a fault of ours: {error}; please report it</source><translation>kann durch einen Fehler von uns nicht gelesen werden: {error}; bitte melden</translation></message>
<message><source>can't be read: {strerror}</source><translation>kann nicht gelesen werden: {strerror}</translation></message>
<message><source>can't tell: {shares}{tail}</source><translation>nicht zu sagen: {shares}{tail}</translation></message>
<message><source>center middle</source><comment>other words</comment><translation>Zentrum Mitte</translation></message>
<message><source>centimetre</source><translation>Zentimeter</translation></message>
<message><source>centimetres</source><translation>Zentimeter</translation></message>
<message><source>centre </source><translation>Mitte </translation></message>
<message><source>centre of mass</source><translation>Massenmittelpunkt</translation></message>
<message><source>change only</source><translation>nur ändern</translation></message>
<message><source>channels of every node read 0 and 1</source><translation>Kanäle aller Knoten lesen 0 und 1</translation></message>
<message><source>check</source><translation>prüfen</translation></message>
<message><source>check needs something to hold: {fields}</source><translation>check braucht etwas, das gelten soll: {fields}</translation></message>
<message><source>children</source><translation>Kinder</translation></message>
<message><source>choose a node…</source><translation>einen Knoten wählen …</translation></message>
<message><source>choose an asset…</source><translation>Modell wählen …</translation></message>
<message><source>circle</source><translation>Kreis</translation></message>
<message><source>circle centre</source><translation>Kreismitte</translation></message>
<message><source>circle of three</source><translation>Kreis aus drei</translation></message>
<message><source>circle's centre</source><translation>Mitte des Kreises</translation></message>
<message><source>clean</source><translation>sauber</translation></message>
<message><source>clean</source><comment>other words</comment><translation>säubern aufräumen</translation></message>
<message><source>clean clear</source><comment>other words</comment><translation>säubern leeren</translation></message>
<message><source>clear new empty</source><comment>other words</comment><translation>leeren neu</translation></message>
<message><source>click a face</source><translation>eine Fläche anklicken</translation></message>
<message><source>click a rim, or the first of three points</source><translation>einen Rand anklicken, oder den ersten von drei Punkten</translation></message>
<message><source>click {word}</source><translation>{word} anklicken</translation></message>
<message><source>clip</source><translation>Clip</translation></message>
<message><source>clip '{name}': the path of '{name_2}' about its new pivot</source><translation>Clip „{name}“: der Pfad von „{name_2}“ um seinen neuen Drehpunkt</translation></message>
<message><source>columns</source><translation>Spalten</translation></message>
<message><source>common</source><translation>gemeinsam</translation></message>
<message><source>common box</source><translation>gemeinsamer Kasten</translation></message>
<message><source>compressed geometry without usable bounds: {error}</source><translation>komprimierte Geometrie ohne brauchbare Grenzen: {error}</translation></message>
<message><source>coordinates that are no numbers</source><translation>Koordinaten, die keine Zahlen sind</translation></message>
<message><source>corner</source><translation>Ecke</translation></message>
<message><source>crooked tilted rotates wrong axis slides sideways</source><comment>symptoms</comment><translation>krumm gekippt dreht um die falsche Achse rutscht seitwärts</translation></message>
<message><source>cuts into {part} from {angle}, {length} deep{more}{about}</source><translation>schneidet in {part} ab {angle}, {length} tief{more}{about}</translation></message>
<message><source>dark night theme settings preferences</source><comment>other words</comment><translation>dunkel Nacht Design Einstellungen</translation></message>
<message><source>datum</source><translation>Bezug</translation></message>
<message><source>datum '{datum}'</source><translation>Bezug „{datum}“</translation></message>
<message><source>datum '{name}' is not on it</source><translation>Bezug „{name}“ ist nicht darauf</translation></message>
<message><source>datum {datum} by itself, nothing else moves  ·  </source><translation>Bezug {datum} allein, sonst bewegt sich nichts  ·  </translation></message>
<message><source>datum {name}</source><translation>Bezug {name}</translation></message>
<message><source>datum {name}  (in use)</source><translation>Bezug {name}  (verwendet)</translation></message>
<message><source>decimal {unit_word}</source><translation>dezimal, {unit_word}</translation></message>
<message><source>declared</source><translation>erklärt</translation></message>
<message><source>declares a document type, which is not read: it could name or grow other text</source><translation>erklärt einen Dokumenttyp, was nicht gelesen wird: er könnte anderen Text nennen oder wachsen lassen</translation></message>
<message><source>declares nothing</source><translation>erklärt nichts</translation></message>
<message><source>declares {count} rows of {name}, over the limit of {vertices}</source><translation>erklärt {count} Zeilen von {name}, mehr als die Grenze von {vertices}</translation></message>
<message><source>declares {count} triangles, over the limit of {triangles}</source><translation>erklärt {count} Dreiecke, mehr als die Grenze von {triangles}</translation></message>
<message><source>declares {unit}</source><translation>erklärt {unit}</translation></message>
<message><source>declares {vertices} vertices and {faces} faces, over the limit</source><translation>erklärt {vertices} Eckpunkte und {faces} Flächen, mehr als die Grenze</translation></message>
<message><source>deep</source><translation>tief</translation></message>
<message><source>degrees</source><translation>Grad</translation></message>
<message><source>delivered</source><translation>geliefert</translation></message>
<message><source>depth</source><translation>Tiefe</translation></message>
<message><source>depth from</source><translation>Tiefe von</translation></message>
<message><source>deviation</source><translation>Abweichung</translation></message>
<message><source>diagonal</source><translation>Diagonale</translation></message>
<message><source>diameter</source><translation>Durchmesser</translation></message>
<message numerus="yes"><source>did something to {applied} of {count} assets</source><translation><numerusform>bewirkte etwas bei {applied} von {count} Modell</numerusform><numerusform>bewirkte etwas bei {applied} von {count} Modellen</numerusform></translation></message>
<message><source>do it where it fits</source><translation>tun, wo er passt</translation></message>
<message><source>do not point where they should</source><translation>zeigen nicht, wohin sie sollten</translation></message>
<message><source>doubt</source><translation>Zweifel</translation></message>
<message><source>drawn by more instances than are written out</source><translation>von mehr Instanzen gezeichnet, als ausgeschrieben werden</translation></message>
<message><source>drawn {times:.4g} times larger than at the right</source><translation>{times:.4g}-mal größer gezeichnet als rechts</translation></message>
<message><source>drawn {times:.4g} times smaller than at the right</source><translation>{times:.4g}-mal kleiner gezeichnet als rechts</translation></message>
<message><source>draws {total} vertices by instancing, over the limit of {drawn_vertices}</source><translation>zeichnet durch Instanzen {total} Eckpunkte, mehr als die Grenze von {drawn_vertices}</translation></message>
<message><source>each</source><translation>jedes</translation></message>
<message><source>each has axes of its own</source><translation>jedes hat eigene Achsen</translation></message>
<message><source>each in the format it came in</source><translation>jedes im Format, in dem es kam</translation></message>
<message><source>each is in one piece</source><translation>jedes ist in einem Stück</translation></message>
<message><source>each one's own base middle</source><translation>jeweils die eigene Mitte der Unterseite</translation></message>
<message><source>each one's own box middle</source><translation>jeweils die eigene Kastenmitte</translation></message>
<message><source>each one's own pivot</source><translation>jeweils der eigene Drehpunkt</translation></message>
<message><source>each one's own {point}</source><translation>bei jedem: {point}</translation></message>
<message><source>each, Tab: all together</source><translation>jedes, Tab: alle zusammen</translation></message>
<message><source>edge</source><translation>Kante</translation></message>
<message><source>edge middle</source><translation>Kantenmitte</translation></message>
<message><source>empty</source><translation>leer</translation></message>
<message><source>even</source><translation>gleich</translation></message>
<message><source>every asset</source><translation>jedes Modell</translation></message>
<message><source>every vertex is exact</source><translation>jeder Eckpunkt ist genau</translation></message>
<message><source>every {text}</source><translation>alle {text}</translation></message>
<message><source>every {which} a major one</source><translation>jede {which} eine Hauptlinie</translation></message>
<message><source>everywhere</source><translation>überall</translation></message>
<message><source>every…</source><translation>alle …</translation></message>
<message><source>exact</source><translation>genau</translation></message>
<message><source>exceptions, a note</source><translation>Ausnahmen, eine Notiz</translation></message>
<message><source>export write output deliver save models</source><comment>other words</comment><translation>exportieren schreiben ausgeben speichern Modelle</translation></message>
<message><source>export write output save models</source><comment>other words</comment><translation>exportieren schreiben ausgeben speichern Modelle</translation></message>
<message><source>extent</source><translation>Maße</translation></message>
<message><source>face</source><translation>Fläche</translation></message>
<message><source>face centre</source><translation>Flächenmitte</translation></message>
<message><source>face {argmin} has no corners: the file is damaged</source><translation>Fläche {argmin} hat keine Ecken: die Datei ist beschädigt</translation></message>
<message><source>factor</source><translation>Faktor</translation></message>
<message><source>failed</source><translation>gescheitert</translation></message>
<message><source>falls apart pile stacked over one another scattered scene</source><comment>symptoms</comment><translation>fällt auseinander Haufen übereinander verstreut Szene</translation></message>
<message><source>feet</source><translation>Fuß</translation></message>
<message><source>feet and inches</source><translation>Fuß und Zoll</translation></message>
<message><source>feet, inches to 1/{denominator}</source><translation>Fuß, Zoll auf 1/{denominator}</translation></message>
<message><source>few of its faces are upright as it lies</source><translation>so, wie es liegt, sind wenige seiner Flächen aufrecht</translation></message>
<message><source>figure</source><translation>Figur</translation></message>
<message><source>file grows memory heavy instances copies</source><comment>symptoms</comment><translation>Datei wächst Speicher schwer Instanzen Kopien</translation></message>
<message><source>filter by name…</source><translation>nach Namen filtern …</translation></message>
<message><source>filter nodes by name…</source><translation>Knoten nach Namen filtern …</translation></message>
<message><source>finding</source><translation>Befund</translation></message>
<message><source>find…</source><translation>suchen …</translation></message>
<message><source>first arm</source><translation>erster Schenkel</translation></message>
<message><source>fix</source><translation>beheben</translation></message>
<message><source>flat</source><translation>flach</translation></message>
<message><source>flickers jitters shakes shadow z-fighting precision wobbles physics</source><comment>symptoms</comment><translation>flimmert zittert wackelt Schatten Genauigkeit Physik</translation></message>
<message><source>floats hovers sinks buried shadow detached ground</source><comment>symptoms</comment><translation>schwebt versinkt vergraben Schatten gelöst Boden</translation></message>
<message><source>floats sinks off its place beside the grid snapping rotates orbits</source><comment>symptoms</comment><translation>schwebt versinkt neben seinem Platz neben dem Raster einrasten</translation></message>
<message><source>floats {length}</source><translation>schwebt {length}</translation></message>
<message><source>follow the view and the unit</source><translation>der Ansicht und der Einheit folgen</translation></message>
<message><source>font zoom larger smaller text size settings preferences</source><comment>other words</comment><translation>Schrift größer kleiner Schriftgröße Einstellungen</translation></message>
<message><source>foot</source><translation>Fuß</translation></message>
<message><source>for</source><comment>assets</comment><translation>für</translation></message>
<message numerus="yes"><source>for {own} of {count} assets</source><translation><numerusform>für {own} von {count} Modell</numerusform><numerusform>für {own} von {count} Modellen</numerusform></translation></message>
<message><source>for {scope}</source><translation>für {scope}</translation></message>
<message><source>format</source><translation>Format</translation></message>
<message><source>forward</source><translation>vorn</translation></message>
<message><source>from</source><comment>a height</comment><translation>von</translation></message>
<message><source>from </source><translation>von </translation></message>
<message><source>from a pick</source><translation>von einem Punkt</translation></message>
<message><source>from the {side}</source><translation>von {side}</translation></message>
<message><source>from {end}</source><translation>ab {end}</translation></message>
<message><source>from: {from_} is of several parts: it needs parts</source><translation>from: {from_} ist für mehrere Teile: es braucht parts</translation></message>
<message><source>front</source><translation>vorn</translation></message>
<message><source>front / back</source><translation>vorn / hinten</translation></message>
<message><source>gap</source><translation>Abstand</translation></message>
<message><source>geometry '{get}' has polygons without positions</source><translation>die Geometrie „{get}“ hat Vielecke ohne Positionen</translation></message>
<message><source>geometry shared by {users} parts comes apart into {copies}, about {more} more</source><translation>Geometrie, die {users} Teile gemeinsam haben, wird auf {copies} verteilt, etwa {more} mehr</translation></message>
<message><source>given point</source><translation>angegebener Punkt</translation></message>
<message><source>given up</source><translation>aufgegeben</translation></message>
<message><source>glTF binary</source><translation>glTF binär</translation></message>
<message><source>glb or usda</source><translation>glb oder usda</translation></message>
<message><source>go on without it there</source><translation>dort ohne ihn weiter</translation></message>
<message><source>grid</source><translation>Gitter</translation></message>
<message><source>grid lines</source><translation>Gitterlinien</translation></message>
<message><source>grid {mark}</source><translation>Gitter {mark}</translation></message>
<message><source>ground floor drop stand</source><comment>other words</comment><translation>Boden absetzen stellen</translation></message>
<message><source>grounded</source><translation>auf dem Boden</translation></message>
<message><source>group</source><translation>Gruppe</translation></message>
<message><source>group by</source><translation>gruppieren nach</translation></message>
<message><source>groups</source><translation>Gruppen</translation></message>
<message><source>guess</source><translation>vermuten</translation></message>
<message><source>half a turn about {half}</source><translation>halbe Drehung um {half}</translation></message>
<message><source>hang from</source><translation>hängen an</translation></message>
<message><source>hardly ever so</source><translation>kaum je so</translation></message>
<message><source>has a tag at byte {start} that can't be read</source><translation>hat bei Byte {start} ein Tag, das sich nicht lesen lässt</translation></message>
<message><source>has a {decode} with something that is no number</source><translation>hat ein {decode} mit etwas, das keine Zahl ist</translation></message>
<message><source>has fewer than 3 corners</source><translation>hat weniger als 3 Ecken</translation></message>
<message><source>has fewer than {need} numbers</source><translation>hat weniger als {need} Zahlen</translation></message>
<message><source>has more than the {_most_entries} entries a book may have</source><translation>hat mehr als die {_most_entries} Einträge, die ein Buch haben darf</translation></message>
<message><source>has no noun</source><translation>hat kein Wort</translation></message>
<message><source>has no pattern</source><translation>hat kein Muster</translation></message>
<message><source>has no vertices with x, y and z</source><translation>hat keine Eckpunkte mit x, y und z</translation></message>
<message><source>has over {elements} elements, or nests over {depth} deep</source><translation>hat mehr als {elements} Elemente oder ist mehr als {depth} tief geschachtelt</translation></message>
<message><source>has over {most} rows of {decode}, the limit</source><translation>hat mehr als {most} Zeilen von {decode}, die Grenze</translation></message>
<message><source>has over {nodes} nodes</source><translation>hat mehr als {nodes} Knoten</translation></message>
<message><source>has over {nodes} prims with a place</source><translation>hat mehr als {nodes} Prims mit einem Ort</translation></message>
<message><source>has over {triangles} triangles</source><translation>hat mehr als {triangles} Dreiecke</translation></message>
<message><source>has over {vertices} vertices</source><translation>hat mehr als {vertices} Eckpunkte</translation></message>
<message><source>has over {vertices} vertices, counted at each node's own morph weights</source><translation>hat mehr als {vertices} Eckpunkte, mit den Morphgewichten jedes Knotens gezählt</translation></message>
<message><source>has the column '{name}' twice</source><translation>hat die Spalte „{name}“ zweimal</translation></message>
<message><source>has two of '{ident}', a {tag} and a {tag_2}: it is damaged</source><translation>hat „{ident}“ zweimal, als {tag} und als {tag_2}: es ist beschädigt</translation></message>
<message><source>has vertices with lists of uneven lengths, which are not read</source><translation>hat Eckpunkte mit Listen ungleicher Länge, die nicht gelesen werden</translation></message>
<message><source>has {chunk} bytes of JSON, over the limit of {text_bytes}</source><translation>hat {chunk} Bytes JSON, mehr als die Grenze von {text_bytes}</translation></message>
<message><source>has {count} cells for {count_2} columns</source><translation>hat {count} Zellen für {count_2} Spalten</translation></message>
<message><source>has {count} nodes, over the limit of {nodes}</source><translation>hat {count} Knoten, mehr als die Grenze von {nodes}</translation></message>
<message><source>has {count} rows of '{name}' with {what}: its faces can't be told</source><translation>hat {count} Zeilen von „{name}“ mit {what}: seine Flächen lassen sich nicht sagen</translation></message>
<message><source>has {count} vertices, over the limit of {vertices}</source><translation>hat {count} Eckpunkte, mehr als die Grenze von {vertices}</translation></message>
<message><source>has {end} {what} behind the rows that it declares: it is damaged</source><translation>hat {end} {what} hinter den Zeilen, die es erklärt: es ist beschädigt</translation></message>
<message><source>has {rows} vertices and {first} triangles in one node, over the limit</source><translation>hat {rows} Eckpunkte und {first} Dreiecke in einem Knoten, mehr als die Grenze</translation></message>
<message><source>has {total} vertices, over the limit of {vertices}</source><translation>hat {total} Eckpunkte, mehr als die Grenze von {vertices}</translation></message>
<message><source>has {vertices} vertices, over the limit of {vertices_2}</source><translation>hat {vertices} Eckpunkte, mehr als die Grenze von {vertices_2}</translation></message>
<message><source>have lost their handedness</source><translation>haben ihre Händigkeit verloren</translation></message>
<message><source>have the wrong handedness</source><translation>haben die falsche Händigkeit</translation></message>
<message><source>height</source><translation>Höhe</translation></message>
<message><source>height from</source><translation>Höhe von</translation></message>
<message><source>heights span {decades:,.0f} : 1</source><translation>Höhen im Verhältnis {decades:,.0f} : 1</translation></message>
<message><source>help documentation guide</source><comment>other words</comment><translation>Hilfe Handbuch Anleitung</translation></message>
<message><source>hide exclude skip</source><comment>other words</comment><translation>ausblenden ausschließen</translation></message>
<message><source>hierarchy</source><translation>Hierarchie</translation></message>
<message><source>hierarchy of {name}</source><translation>Hierarchie von {name}</translation></message>
<message><source>high</source><translation>hoch</translation></message>
<message><source>higher than wide</source><translation>höher als breit</translation></message>
<message><source>hinge door swings wrong rotates orbits far away</source><comment>symptoms</comment><translation>Scharnier Tür schwingt falsch dreht sich weit weg</translation></message>
<message><source>holds</source><translation>gilt</translation></message>
<message><source>holds '{filename}' compressed, which a USDZ package does not</source><translation>enthält „{filename}“ komprimiert, was ein USDZ-Paket nicht tut</translation></message>
<message><source>holds '{name}' of {declared} bytes, over the limit</source><translation>enthält „{name}“ mit {declared} Bytes, mehr als die Grenze</translation></message>
<message><source>holds '{name}', which is larger than it declares</source><translation>enthält „{name}“, das größer ist, als es erklärt</translation></message>
<message><source>holds '{name}', which leads out of the package</source><translation>enthält „{name}“, das aus dem Paket hinausführt</translation></message>
<message><source>holds a package in a package, '{inner}', which is not read</source><translation>enthält ein Paket im Paket, „{inner}“, das nicht gelesen wird</translation></message>
<message><source>holds a part beside its model that is damaged; repack it</source><translation>enthält neben seinem Modell einen beschädigten Teil; neu packen</translation></message>
<message><source>holds more files or bytes than the limits allow</source><translation>enthält mehr Dateien oder Bytes, als die Grenzen zulassen</translation></message>
<message><source>holds something that is no number</source><translation>enthält etwas, das keine Zahl ist</translation></message>
<message><source>holds something that is no number among its rows</source><translation>enthält in seinen Zeilen etwas, das keine Zahl ist</translation></message>
<message><source>holds {word}, which is no JSON number</source><translation>enthält {word}, was keine JSON-Zahl ist</translation></message>
<message><source>how its textures wrap</source><translation>wie seine Texturen sich wiederholen</translation></message>
<message><source>how strong its normal maps are</source><translation>die Stärke seiner Normalenbilder</translation></message>
<message><source>import load add folder</source><comment>other words</comment><translation>importieren laden Ordner hinzufügen</translation></message>
<message><source>import load add models</source><comment>other words</comment><translation>importieren laden Modelle hinzufügen</translation></message>
<message><source>in doubt</source><translation>zweifelhaft</translation></message>
<message><source>in the batch, the sheet and the tray</source><translation>im Stapel, auf dem Blatt und in der Ablage</translation></message>
<message><source>in the file, up is</source><translation>in der Datei ist oben</translation></message>
<message><source>in the line-up</source><translation>in der Aufstellung</translation></message>
<message><source>in the order</source><translation>in der Reihenfolge</translation></message>
<message><source>in the views</source><translation>in den Ansichten</translation></message>
<message><source>in the views and lists</source><translation>in den Ansichten und Listen</translation></message>
<message><source>in {unit}</source><translation>in {unit}</translation></message>
<message><source>in: part needs of: parts, groups or all</source><translation>in: part braucht of: parts, groups oder all</translation></message>
<message><source>inch</source><translation>Zoll</translation></message>
<message><source>inches</source><translation>Zoll</translation></message>
<message><source>inches to 1/{d}</source><translation>Zoll auf 1/{d}</translation></message>
<message><source>inset: '{side}' is no side{did_you_mean}</source><translation>inset: „{side}“ ist keine Seite{did_you_mean}</translation></message>
<message><source>inset: the point is not on the {side} side</source><translation>inset: der Punkt ist nicht auf der Seite {side}</translation></message>
<message><source>into the folder</source><translation>in den Ordner</translation></message>
<message><source>invisible disappears nothing there missing</source><comment>symptoms</comment><translation>unsichtbar verschwindet nichts da fehlt</translation></message>
<message><source>invisible disappears vanishes culled crash physics collision NaN bounds</source><comment>symptoms</comment><translation>unsichtbar verschwindet Absturz Physik Kollision NaN</translation></message>
<message><source>invisible missing appears unexpected parts</source><comment>symptoms</comment><translation>unsichtbar fehlt erscheint unerwartet</translation></message>
<message><source>is GLB version {version}; version 2 is read</source><translation>ist GLB der Version {version}; gelesen wird Version 2</translation></message>
<message><source>is XML in an encoding that is not read ({encoding})</source><translation>ist XML in einer Kodierung, die nicht gelesen wird ({encoding})</translation></message>
<message><source>is a {kind}, no file</source><translation>ist keine Datei, sondern {kind}</translation></message>
<message><source>is cut short or no STL</source><translation>ist abgeschnitten oder kein STL</translation></message>
<message><source>is cut short: a chunk at byte {at} declares {size} bytes</source><translation>ist abgeschnitten: ein Stück bei Byte {at} erklärt {size} Bytes</translation></message>
<message><source>is cut short: it declares {count} rows of {name} and has fewer</source><translation>ist abgeschnitten: es erklärt {count} Zeilen von {name} und hat weniger</translation></message>
<message><source>is cut short: it declares {length} bytes and has {count}</source><translation>ist abgeschnitten: es erklärt {length} Bytes und hat {count}</translation></message>
<message><source>is cut short: it declares {vertices} vertices and {faces} faces on {count} lines</source><translation>ist abgeschnitten: es erklärt {vertices} Eckpunkte und {faces} Flächen auf {count} Zeilen</translation></message>
<message><source>is cut short: it ends without 'endsolid', after {vertices} vertices</source><translation>ist abgeschnitten: es endet ohne „endsolid“, nach {vertices} Eckpunkten</translation></message>
<message><source>is cut short: its header has no end</source><translation>ist abgeschnitten: sein Kopf hat kein Ende</translation></message>
<message><source>is damaged</source><translation>ist beschädigt</translation></message>
<message><source>is damaged: its {facets} facets have {vertices} vertices between them, not three each</source><translation>ist beschädigt: seine {facets} Facetten haben zusammen {vertices} Eckpunkte, nicht je drei</translation></message>
<message><source>is empty</source><translation>ist leer</translation></message>
<message><source>is empty XML</source><translation>ist leeres XML</translation></message>
<message><source>is glTF version '{version}'; version 2 is read</source><translation>ist glTF der Version „{version}“; gelesen wird Version 2</translation></message>
<message><source>is made of '{reference}', which is not there</source><translation>besteht aus „{reference}“, das nicht da ist</translation></message>
<message><source>is made of over {_most_files} files</source><translation>besteht aus mehr als {_most_files} Dateien</translation></message>
<message><source>is nested over {depth} nodes deep</source><translation>ist mehr als {depth} Knoten tief geschachtelt</translation></message>
<message><source>is no 3MF model: its root is &lt;{tag}&gt;</source><translation>ist kein 3MF-Modell: seine Wurzel ist &lt;{tag}&gt;</translation></message>
<message><source>is no 3MF package, or its archive is damaged</source><translation>ist kein 3MF-Paket, oder sein Archiv ist beschädigt</translation></message>
<message><source>is no 3MF package: it has no model</source><translation>ist kein 3MF-Paket: es hat kein Modell</translation></message>
<message><source>is no 3MF package: it has no relationships</source><translation>ist kein 3MF-Paket: es hat keine Beziehungen</translation></message>
<message><source>is no COLLADA: its root is &lt;{tag}&gt;</source><translation>ist kein COLLADA: seine Wurzel ist &lt;{tag}&gt;</translation></message>
<message><source>is no CSV: {error}</source><translation>ist kein CSV: {error}</translation></message>
<message><source>is no GLB: it does not start with its mark</source><translation>ist kein GLB: es beginnt nicht mit seinem Zeichen</translation></message>
<message><source>is no GLB: its first chunk is not JSON</source><translation>ist kein GLB: sein erstes Stück ist kein JSON</translation></message>
<message><source>is no OBJ: it holds bytes that are no text</source><translation>ist kein OBJ: es enthält Bytes, die kein Text sind</translation></message>
<message><source>is no OFF that is read: it does not start with OFF, COFF, NOFF or STOFF, as text</source><translation>ist kein OFF, das gelesen wird: es beginnt nicht mit OFF, COFF, NOFF oder STOFF, als Text</translation></message>
<message><source>is no PLY: it does not start with 'ply'</source><translation>ist kein PLY: es beginnt nicht mit „ply“</translation></message>
<message><source>is no USD that can be read</source><translation>ist kein USD, das sich lesen lässt</translation></message>
<message><source>is no USD that can be read: it holds text that is no UTF-8</source><translation>ist kein USD, das sich lesen lässt: es enthält Text, der kein UTF-8 ist</translation></message>
<message><source>is no USD that can be read: {first_words}</source><translation>ist kein USD, das sich lesen lässt: {first_words}</translation></message>
<message><source>is no USD that can be read: {name}</source><translation>ist kein USD, das sich lesen lässt: {name}</translation></message>
<message><source>is no USDZ package</source><translation>ist kein USDZ-Paket</translation></message>
<message><source>is no YAML</source><translation>ist kein YAML</translation></message>
<message><source>is no YAML: {splitline}</source><translation>ist kein YAML: {splitline}</translation></message>
<message><source>is no file</source><translation>ist keine Datei</translation></message>
<message><source>is no glTF: its JSON has no 'asset'</source><translation>ist kein glTF: sein JSON hat kein „asset“</translation></message>
<message><source>is no list of measurements: {error}</source><translation>ist keine Liste von Messungen: {error}</translation></message>
<message><source>is no prep sheet: it should start with 'prep-sheet: 1'</source><translation>ist kein Vorbereitungsblatt: es sollte mit „prep-sheet: 1“ beginnen</translation></message>
<message><source>is no size book: its first line should read {columns}</source><translation>ist kein Maßbuch: seine erste Zeile sollte {columns} lauten</translation></message>
<message><source>is no table of nouns: its first line should read {columns}</source><translation>ist keine Wörtertabelle: ihre erste Zeile sollte {columns} lauten</translation></message>
<message><source>is no well-formed XML: line {lineno}: {errorstring}</source><translation>ist kein wohlgeformtes XML: Zeile {lineno}: {errorstring}</translation></message>
<message><source>is not UTF-8 text</source><translation>ist kein UTF-8-Text</translation></message>
<message><source>is not there</source><translation>ist nicht da</translation></message>
<message><source>is not there any more</source><translation>ist nicht mehr da</translation></message>
<message><source>is {size} bytes of text, over the limit of {text_bytes}</source><translation>ist {size} Bytes Text, mehr als die Grenze von {text_bytes}</translation></message>
<message><source>is {size} bytes, over the limit of {file_bytes}</source><translation>ist {size} Bytes, mehr als die Grenze von {file_bytes}</translation></message>
<message><source>it cuts into nothing{about}</source><translation>es schneidet in nichts{about}</translation></message>
<message><source>it draws a skinned mesh as many instances, and a skin holds one</source><translation>es zeichnet ein Netz mit Skin als viele Instanzen, und ein Skin hält eine</translation></message>
<message><source>it has a flat sole so</source><translation>so hat es eine flache Sohle</translation></message>
<message><source>it has a skeleton, which is not carried in USD</source><translation>es hat ein Skelett, das in USD nicht mitgenommen wird</translation></message>
<message><source>it has a skin or morph controller, which is not carried in COLLADA</source><translation>es hat einen Skin- oder Morph-Controller, der in COLLADA nicht mitgenommen wird</translation></message>
<message><source>it has a skinned mesh whose vertices are compressed, and this version can't read them</source><translation>es hat ein Netz mit Skin, dessen Eckpunkte komprimiert sind, und diese Version kann sie nicht lesen</translation></message>
<message><source>it has a skinned mesh whose vertices name no joints</source><translation>es hat ein Netz mit Skin, dessen Eckpunkte keine Gelenke nennen</translation></message>
<message><source>it has clips, which are not carried in COLLADA</source><translation>es hat Clips, die in COLLADA nicht mitgenommen werden</translation></message>
<message><source>it has no default prim that is a component</source><translation>es hat kein Haupt-Prim, das eine Komponente ist</translation></message>
<message><source>it has no finite size</source><translation>es hat keine endliche Größe</translation></message>
<message><source>it has no flat sole as it lies</source><translation>so, wie es liegt, hat es keine flache Sohle</translation></message>
<message><source>it has no geometry to measure</source><translation>es hat keine Geometrie, die zu messen wäre</translation></message>
<message><source>it has no geometry to set down</source><translation>es hat keine Geometrie, die abzusetzen wäre</translation></message>
<message><source>it has no geometry to size</source><translation>es hat keine Geometrie, die zu bemessen wäre</translation></message>
<message><source>it has no geometry, so no box</source><translation>es hat keine Geometrie, also keinen Kasten</translation></message>
<message><source>it has no node '{name}'{did_you_mean}</source><translation>es hat keinen Knoten „{name}“{did_you_mean}</translation></message>
<message><source>it has no part '{name}' to measure on</source><translation>es hat kein Teil „{name}“, an dem zu messen wäre</translation></message>
<message><source>it has no pattern</source><translation>es hat kein Muster</translation></message>
<message><source>it has no surface, so no centre</source><translation>es hat keine Oberfläche, also keine Mitte</translation></message>
<message><source>it has no {what}</source><translation>es hat keine {what}</translation></message>
<message><source>it has that size already</source><translation>es hat schon diese Größe</translation></message>
<message><source>it has {roots}, so no axes of its own: name the parts</source><translation>es hat {roots}, also keine eigenen Achsen: die Teile nennen</translation></message>
<message><source>it holds a number of thousands of digits</source><translation>es enthält eine Zahl mit Tausenden Ziffern</translation></message>
<message><source>it holds text that is no UTF-8</source><translation>es enthält Text, der kein UTF-8 ist</translation></message>
<message><source>it is made of '{path}', which is delivered changed, as a model of its own: leave that out</source><translation>es ist aus „{path}“ gemacht, das als eigenes Modell geändert geliefert wird: dieses auslassen</translation></message>
<message><source>it is made of a file called '{path}', which the delivery needs for itself</source><translation>es ist aus einer Datei namens „{path}“ gemacht, die die Lieferung für sich braucht</translation></message>
<message><source>it is not for what is open</source><translation>es ist nicht für das, was offen ist</translation></message>
<message><source>it is open below so, where nobody looks</source><translation>so ist es unten offen, wo niemand hinsieht</translation></message>
<message><source>it is open where everybody looks as it lies</source><translation>so, wie es liegt, ist es offen, wo alle hinsehen</translation></message>
<message><source>it is round about an axis that lies, as it does</source><translation>so, wie es liegt, ist es rund um eine liegende Achse</translation></message>
<message><source>it is round about its upright so</source><translation>so ist es rund um seine Hochachse</translation></message>
<message><source>it is turned so already</source><translation>es ist schon so gedreht</translation></message>
<message><source>it moves by a distance, or to a place: not both at once</source><translation>es bewegt sich um einen Abstand oder an eine Stelle: nicht beides zugleich</translation></message>
<message><source>it must be given</source><translation>es muss angegeben sein</translation></message>
<message><source>it must not be less than nothing</source><translation>es darf nicht weniger als nichts sein</translation></message>
<message><source>it names '{astray}'{more}, outside its folder: put a copy beside it, and name that</source><translation>es nennt „{astray}“{more}, außerhalb seines Ordners: eine Kopie daneben legen und diese nennen</translation></message>
<message><source>it requires the extension '{unknown}', which this version can't read</source><translation>es verlangt die Erweiterung „{unknown}“, die diese Version nicht lesen kann</translation></message>
<message><source>it seems to stand on its {side} side</source><translation>es scheint auf dieser Seite zu stehen: {side}</translation></message>
<message><source>it sets none of x, y and z</source><translation>es setzt keines von x, y und z</translation></message>
<message><source>it stands on a wide foot so</source><translation>so steht es auf breitem Fuß</translation></message>
<message><source>it stands steadily so</source><translation>so steht es sicher</translation></message>
<message><source>it stands there already</source><translation>es steht schon dort</translation></message>
<message><source>it stopped</source><translation>es brach ab</translation></message>
<message><source>it stops here</source><translation>hier bricht es ab</translation></message>
<message><source>it takes no vertex</source><translation>es nimmt keinen Eckpunkt</translation></message>
<message><source>it touches the ground with little of itself as it lies</source><translation>so, wie es liegt, berührt es den Boden mit wenig von sich</translation></message>
<message><source>it turns by an angle, or to one: not both at once</source><translation>es dreht sich um einen Winkel oder auf einen: nicht beides zugleich</translation></message>
<message><source>it would stop: </source><translation>es würde aufhalten: </translation></message>
<message><source>it would tip over easily as it lies</source><translation>so, wie es liegt, kippte es leicht</translation></message>
<message><source>its '{word}' lines can't be read as numbers</source><translation>seine Zeilen „{word}“ lassen sich nicht als Zahlen lesen</translation></message>
<message><source>its JSON can't be read: {said}</source><translation>sein JSON lässt sich nicht lesen: {said}</translation></message>
<message><source>its JSON is nested too deeply</source><translation>sein JSON ist zu tief geschachtelt</translation></message>
<message><source>its JSON is not of glTF's shape: {trouble}</source><translation>sein JSON hat nicht die Form von glTF: {trouble}</translation></message>
<message><source>its asset element is missing or empty, so its unit can't be declared anew</source><translation>sein asset-Element fehlt oder ist leer, also lässt sich seine Einheit nicht neu erklären</translation></message>
<message><source>its axes become</source><translation>seine Achsen werden</translation></message>
<message><source>its base middle</source><translation>die Mitte seiner Unterseite</translation></message>
<message><source>its bottom is {bottom} above height 0</source><translation>die Unterseite ist {bottom} über Höhe 0</translation></message>
<message><source>its bottom is {bottom} below height 0</source><translation>die Unterseite ist {bottom} unter Höhe 0</translation></message>
<message><source>its box</source><translation>sein Kasten</translation></message>
<message><source>its box is</source><translation>sein Kasten ist</translation></message>
<message><source>its box middle</source><translation>seine Kastenmitte</translation></message>
<message><source>its buffer '{uri}' is cut short: {item} bytes are declared</source><translation>sein Buffer „{uri}“ ist abgeschnitten: {item} Bytes sind erklärt</translation></message>
<message><source>its buffer '{uri}' is not there</source><translation>sein Buffer „{uri}“ ist nicht da</translation></message>
<message><source>its cameras</source><translation>seine Kameras</translation></message>
<message><source>its channel</source><translation>sein Kanal</translation></message>
<message><source>its clip '{name}' leaves all numbers at {at_s:g} s</source><translation>sein Clip „{name}“ verlässt bei {at_s:g} s alle Zahlen</translation></message>
<message><source>its clip {index} has a channel that can't be read ({error})</source><translation>sein Clip {index} hat einen Kanal, der sich nicht lesen lässt ({error})</translation></message>
<message><source>its clips</source><translation>seine Clips</translation></message>
<message><source>its clips animate '{path}', which this version does not know</source><translation>seine Clips animieren „{path}“, was diese Version nicht kennt</translation></message>
<message><source>its clips animate node {node}, which is not there or has a matrix</source><translation>seine Clips animieren Knoten {node}, der nicht da ist oder eine Matrix hat</translation></message>
<message><source>its clips animate what this version does not know</source><translation>seine Clips animieren, was diese Version nicht kennt</translation></message>
<message><source>its clips are compressed, and this version can't read them</source><translation>seine Clips sind komprimiert, und diese Version kann sie nicht lesen</translation></message>
<message><source>its clips are rewritten</source><translation>seine Clips werden umgeschrieben</translation></message>
<message><source>its clips go '{kind}' between keys, which this version does not know</source><translation>seine Clips gehen zwischen Schlüsseln „{kind}“, was diese Version nicht kennt</translation></message>
<message><source>its colours</source><translation>seine Farben</translation></message>
<message><source>its coordinates are whole numbers, and would no longer be</source><translation>seine Koordinaten sind ganze Zahlen und wären es nicht mehr</translation></message>
<message><source>its coordinates grow past what float32 can hold</source><translation>seine Koordinaten wachsen über das hinaus, was float32 hält</translation></message>
<message><source>its corners</source><translation>seine Ecken</translation></message>
<message><source>its corners would lie on whole inches</source><translation>seine Ecken lägen auf ganzen Zoll</translation></message>
<message><source>its corners would lie on whole millimetres</source><translation>seine Ecken lägen auf ganzen Millimetern</translation></message>
<message><source>its detail is above so</source><translation>so sind seine Feinheiten oben</translation></message>
<message><source>its detail is below as it lies</source><translation>so, wie es liegt, sind seine Feinheiten unten</translation></message>
<message><source>its faces are upright so</source><translation>so sind seine Flächen aufrecht</translation></message>
<message><source>its folder leads out of the delivery, to '{place}'</source><translation>sein Ordner führt aus der Lieferung hinaus, nach „{place}“</translation></message>
<message><source>its format holds no hierarchy</source><translation>sein Format hält keine Hierarchie</translation></message>
<message><source>its frames grow past what a file can hold</source><translation>seine Rahmen wachsen über das hinaus, was eine Datei hält</translation></message>
<message><source>its geometry comes apart from what shares it</source><translation>seine Geometrie löst sich von dem, was sie mitbenutzt</translation></message>
<message><source>its geometry has lines beside its faces, which belong to no piece of it</source><translation>seine Geometrie hat neben Flächen auch Linien, die zu keinem Stück gehören</translation></message>
<message><source>its geometry has sources that share their numbers, which can't be cut</source><translation>seine Geometrie hat Quellen, die sich ihre Zahlen teilen und nicht geteilt werden können</translation></message>
<message><source>its geometry is not what was delivered</source><translation>seine Geometrie ist nicht die gelieferte</translation></message>
<message><source>its geometry is {sealed}, and a reading would rewrite it</source><translation>seine Geometrie ist {sealed}, und eine Lesart würde sie umschreiben</translation></message>
<message><source>its header names no format that is known</source><translation>sein Kopf nennt kein bekanntes Format</translation></message>
<message><source>its hierarchy</source><translation>seine Hierarchie</translation></message>
<message><source>its indices have comments among them, which can't be kept</source><translation>zwischen seinen Indizes stehen Kommentare, die sich nicht behalten lassen</translation></message>
<message><source>its instances are compressed, and this version can't read them</source><translation>seine Instanzen sind komprimiert, und diese Version kann sie nicht lesen</translation></message>
<message><source>its instances as such (each is written out)</source><translation>seine Instanzen als solche (jede wird ausgeschrieben)</translation></message>
<message><source>its level faces look down as it lies</source><translation>so, wie es liegt, schauen seine ebenen Flächen nach unten</translation></message>
<message><source>its level faces look up so</source><translation>so schauen seine ebenen Flächen nach oben</translation></message>
<message><source>its lights</source><translation>seine Lichter</translation></message>
<message><source>its morph targets (the shape at rest is written)</source><translation>seine Morphziele (die Form in Ruhe wird geschrieben)</translation></message>
<message><source>its name</source><translation>sein Name</translation></message>
<message><source>its name says {length:g} m, and so it would be</source><translation>sein Name sagt {length:g} m, und so wäre es</translation></message>
<message><source>its nodes can't be hung so in a file of its format: deliver it as glb</source><translation>seine Knoten lassen sich in einer Datei seines Formats nicht so anhängen: Liefern Sie es als glb aus</translation></message>
<message><source>its normal maps</source><translation>seine Normalenbilder</translation></message>
<message><source>its normals</source><translation>seine Normalen</translation></message>
<message><source>its normals are told in a way that has no room for more of them</source><translation>seine Normalen stehen so da, dass für mehr kein Platz ist</translation></message>
<message><source>its normals share their numbers with something else, and would have to part from it</source><translation>seine Normalen teilen ihre Zahlen mit etwas anderem und müssten sich davon trennen</translation></message>
<message><source>its numbers have comments among them, which can't be kept</source><translation>zwischen seinen Zahlen stehen Kommentare, die sich nicht behalten lassen</translation></message>
<message><source>its objects are made of one another over {_deepest} deep, or of themselves</source><translation>seine Objekte bestehen über {_deepest} tief auseinander oder aus sich selbst</translation></message>
<message><source>its objects come to {total} parts and groups, over the limit of {nodes}</source><translation>seine Objekte ergeben {total} Teile und Gruppen, mehr als die Grenze von {nodes}</translation></message>
<message><source>its origin is level with its base so</source><translation>so ist sein Ursprung auf Höhe seiner Unterseite</translation></message>
<message><source>its origin is not at its base as it lies</source><translation>so, wie es liegt, ist sein Ursprung nicht an seiner Unterseite</translation></message>
<message><source>its origin is not level with its base as it lies</source><translation>so, wie es liegt, ist sein Ursprung nicht auf Höhe seiner Unterseite</translation></message>
<message><source>its origin is off its middle line as it lies</source><translation>so, wie es liegt, ist sein Ursprung neben seiner Mittellinie</translation></message>
<message><source>its origin is on its middle line so</source><translation>so ist sein Ursprung auf seiner Mittellinie</translation></message>
<message><source>its origin is the middle of its base so</source><translation>so ist sein Ursprung die Mitte seiner Unterseite</translation></message>
<message><source>its own</source><translation>eigene</translation></message>
<message><source>its own axes</source><translation>der eigenen Achsen</translation></message>
<message><source>its own axes, or its parent's,</source><translation>die eigenen Achsen, oder die des Übergeordneten,</translation></message>
<message><source>its parent</source><translation>sein Übergeordnetes</translation></message>
<message><source>its parent's axes</source><translation>der Achsen des Übergeordneten</translation></message>
<message><source>its path is resampled</source><translation>sein Pfad wird neu abgetastet</translation></message>
<message><source>its pivot</source><translation>sein Drehpunkt</translation></message>
<message><source>its point lies on the centre it is to move away from: there is no line to go along</source><translation>sein Punkt liegt auf der Mitte, von der es wegbewegt werden soll: es gibt keine Linie, der zu folgen wäre</translation></message>
<message><source>its points and lines</source><translation>seine Punkte und Linien</translation></message>
<message><source>its polygons are told in several runs, which can't be changed</source><translation>seine Vielecke stehen in mehreren Läufen, die sich nicht ändern lassen</translation></message>
<message><source>its proof does not hold: '{name}' is turned or scaled otherwise than it should be</source><translation>seine Probe hält nicht: „{name}“ ist anders gedreht oder skaliert, als es sein sollte</translation></message>
<message><source>its proof does not hold: a clip leaves a part {furthest} from where it should be</source><translation>der Beweis hält nicht: ein Clip lässt ein Teil {furthest} von da, wo es sein sollte</translation></message>
<message><source>its proof does not hold: a corner of '{name}' is {far} from where it should be</source><translation>der Beweis hält nicht: eine Ecke von „{name}“ ist {far} von da, wo sie sein sollte</translation></message>
<message><source>its proof does not hold: a vertex of '{name}' is {off} from where it should be</source><translation>der Beweis hält nicht: ein Eckpunkt von „{name}“ ist {off} von da, wo er sein sollte</translation></message>
<message><source>its proof does not hold: the pivot of '{name}' is {by} from where it should be</source><translation>seine Probe hält nicht: der Drehpunkt von „{name}“ liegt {by} von dort, wo er sein sollte</translation></message>
<message><source>its proof does not hold: the {what} of '{name}' are not what they were</source><translation>seine Probe hält nicht: {what} von „{name}“ sind nicht mehr, was sie waren</translation></message>
<message><source>its proof does not hold: the {what} of '{name}' {strays}</source><translation>der Beweis hält nicht: {what} von „{name}“ {strays}</translation></message>
<message><source>its reader crashed, or ran out of memory</source><translation>sein Leser ist abgestürzt oder hatte keinen Speicher mehr</translation></message>
<message><source>its references come to over {most} prims</source><translation>seine Verweise ergeben über {most} Prims</translation></message>
<message><source>its rotation, as angles</source><translation>seine Drehung, als Winkel</translation></message>
<message><source>its scene's nodes are no list</source><translation>die Knoten seiner Szene sind keine Liste</translation></message>
<message><source>its second texture coordinates</source><translation>seine zweiten Texturkoordinaten</translation></message>
<message><source>its settings</source><translation>seine Einstellungen</translation></message>
<message><source>its size is not what was delivered</source><translation>seine Größe ist nicht die gelieferte</translation></message>
<message><source>its size lies between</source><translation>seine Größe liegt zwischen</translation></message>
<message><source>its skins (the shape at rest is written)</source><translation>seine Skins (die Form in Ruhe wird geschrieben)</translation></message>
<message><source>its skins are compressed, and this version can't read them</source><translation>seine Skins sind komprimiert, und diese Version kann sie nicht lesen</translation></message>
<message><source>its steps</source><translation>seine Schritte</translation></message>
<message><source>its texture coordinates</source><translation>seine Texturkoordinaten</translation></message>
<message><source>its textures</source><translation>seine Texturen</translation></message>
<message><source>its three points lie on one line: no circle goes through them</source><translation>seine drei Punkte liegen auf einer Linie: kein Kreis geht durch sie</translation></message>
<message><source>its three points lie on one line: they make no plane</source><translation>seine drei Punkte liegen auf einer Linie: sie ergeben keine Ebene</translation></message>
<message><source>its transform '{text}' holds something that is no number</source><translation>sein transform „{text}“ enthält etwas, das keine Zahl ist</translation></message>
<message><source>its transform '{text}' is not twelve numbers</source><translation>sein transform „{text}“ ist nicht zwölf Zahlen</translation></message>
<message><source>its triangle strips and fans can't be wound the other way round</source><translation>seine Dreiecksstreifen und -fächer lassen sich nicht andersherum umlaufen</translation></message>
<message><source>its triangle strips and fans have normals, which can't be worked out anew</source><translation>seine Dreiecksstreifen und -fächer haben Normalen, die sich nicht neu ermitteln lassen</translation></message>
<message><source>its triangle strips can't be wound the other way round</source><translation>seine Dreiecksstreifen lassen sich nicht andersherum umlaufen</translation></message>
<message><source>its unit '{unit}' is none of {units}</source><translation>seine Einheit „{unit}“ ist keine von {units}</translation></message>
<message><source>its unit and axes</source><translation>seine Einheit und Achsen</translation></message>
<message><source>its unit is '{text}' metres, which is no number</source><translation>seine Einheit ist „{text}“ Meter, was keine Zahl ist</translation></message>
<message><source>its unit is {metres:g} metres</source><translation>seine Einheit ist {metres:g} Meter</translation></message>
<message><source>its unit, '{value}', is no number</source><translation>seine Einheit, „{value}“, ist keine Zahl</translation></message>
<message><source>its up axis '{up}' is neither Y nor Z</source><translation>seine Hochachse „{up}“ ist weder Y noch Z</translation></message>
<message><source>its up axis '{up}' is none of X_UP, Y_UP, Z_UP</source><translation>seine Hochachse „{up}“ ist keine von X_UP, Y_UP, Z_UP</translation></message>
<message><source>its vertex colours</source><translation>seine Eckpunktfarben</translation></message>
<message><source>its weight falls outside its foot as it lies</source><translation>so, wie es liegt, fällt sein Gewicht neben seinen Fuß</translation></message>
<message><source>its {point}</source><translation>dort: {point}</translation></message>
<message><source>its {what} is nothing, and no factor makes that {wanted:g} m</source><translation>{what} ist nichts, und kein Faktor macht daraus {wanted:g} m</translation></message>
<message><source>itself</source><translation>es selbst</translation></message>
<message><source>joints hold the geometry of '{name}', and its vertices can't be moved by themselves</source><translation>Gelenke halten die Geometrie von „{name}“, und ihre Eckpunkte lassen sich nicht für sich bewegen</translation></message>
<message><source>keep</source><translation>behalten</translation></message>
<message><source>keep goes with width, height or depth</source><translation>keep gehört zu width, height oder depth</translation></message>
<message><source>keep: {keep} goes with one extent, not {count}</source><translation>keep: {keep} gehört zu einer Ausdehnung, nicht zu {count}</translation></message>
<message><source>key</source><translation>Taste</translation></message>
<message><source>kilometre</source><translation>Kilometer</translation></message>
<message><source>kilometres</source><translation>Kilometer</translation></message>
<message><source>lacks its numbers of vertices and faces</source><translation>ihm fehlen die Zahlen seiner Eckpunkte und Flächen</translation></message>
<message><source>laid with {answer} up</source><translation>mit {answer} nach oben gelegt</translation></message>
<message><source>language translation settings preferences</source><comment>other words</comment><translation>Sprache Übersetzung Einstellungen</translation></message>
<message><source>larger than the {_most_bytes} MB a sheet may be</source><translation>größer als die {_most_bytes} MB, die ein Blatt sein darf</translation></message>
<message><source>larger than the {_most_bytes} MB measurements may take</source><translation>größer als die {_most_bytes} MB, die Messungen einnehmen dürfen</translation></message>
<message><source>larger than the {_most_bytes} MB that nouns may take</source><translation>größer als die {_most_bytes} MB, die Wörter einnehmen dürfen</translation></message>
<message><source>larger than the {most_bytes} MB a size book may be</source><translation>größer als die {most_bytes} MB, die ein Maßbuch sein darf</translation></message>
<message><source>leave it out</source><translation>es auslassen</translation></message>
<message><source>leave these {count} out</source><translation>diese {count} auslassen</translation></message>
<message><source>leave this asset out</source><translation>dieses Modell auslassen</translation></message>
<message><source>left</source><translation>links</translation></message>
<message><source>left / right</source><translation>links / rechts</translation></message>
<message><source>left and right are mirrored across {third}</source><translation>links und rechts sind gespiegelt quer zu {third}</translation></message>
<message><source>left and right are mirrored so</source><translation>so sind links und rechts gespiegelt</translation></message>
<message><source>left out</source><translation>ausgelassen</translation></message>
<message><source>left to settle here</source><translation>hier noch zu erledigen</translation></message>
<message><source>length</source><translation>Länge</translation></message>
<message><source>level</source><translation>eben</translation></message>
<message><source>light day theme settings preferences</source><comment>other words</comment><translation>hell Tag Design Einstellungen</translation></message>
<message><source>likely</source><translation>am ehesten</translation></message>
<message><source>line up toward</source><translation>ausrichten zu</translation></message>
<message><source>line up with</source><translation>ausrichten an</translation></message>
<message><source>line {line_number}: '{shown}' {why}</source><translation>Zeile {line_number}: „{shown}“ {why}</translation></message>
<message><source>line {line} can't be understood</source><translation>Zeile {line} ist nicht zu verstehen</translation></message>
<message><source>line {line} has fewer corners than it says</source><translation>Zeile {line} hat weniger Ecken, als sie sagt</translation></message>
<message><source>line {line} has fewer than {need} numbers</source><translation>Zeile {line} hat weniger als {need} Zahlen</translation></message>
<message><source>line {line} has more numbers than a row of {name}: it is damaged</source><translation>Zeile {line} hat mehr Zahlen als eine Zeile von {name}: es ist beschädigt</translation></message>
<message><source>line {line} has more numbers than its corners and a colour</source><translation>Zeile {line} hat mehr Zahlen als ihre Ecken und eine Farbe</translation></message>
<message><source>line {line} has {many} numbers, unlike other vertices</source><translation>Zeile {line} hat {many} Zahlen, anders als andere Eckpunkte</translation></message>
<message><source>line {line} is behind the {vertices} vertices and {faces} faces that it declares</source><translation>Zeile {line} steht hinter den {vertices} Eckpunkten und {faces} Flächen, die es erklärt</translation></message>
<message><source>line {line} lies within a row of {name} that began before it</source><translation>Zeile {line} liegt in einer Zeile von {name}, die davor begann</translation></message>
<message><source>line {line}: '{shown}' is no number</source><translation>Zeile {line}: „{shown}“ ist keine Zahl</translation></message>
<message><source>line {line}: '{word}' is no property that is known</source><translation>Zeile {line}: „{word}“ ist keine bekannte Eigenschaft</translation></message>
<message><source>line {line}: &lt;{tag}&gt; holds something that is no number</source><translation>Zeile {line}: &lt;{tag}&gt; enthält etwas, das keine Zahl ist</translation></message>
<message><source>line {line}: a facet without the three numbers of its normal</source><translation>Zeile {line}: eine Facette ohne die drei Zahlen ihrer Normale</translation></message>
<message><source>line {line}: a list is counted by '{word}', which is no whole number</source><translation>Zeile {line}: eine Liste wird mit „{word}“ gezählt, was keine ganze Zahl ist</translation></message>
<message><source>line {line}: a {decode} is closed by another name</source><translation>Zeile {line}: ein {decode} wird mit einem anderen Namen geschlossen</translation></message>
<message><source>line {line}: a {decode} lacks one of its three numbers</source><translation>Zeile {line}: einem {decode} fehlt eine seiner drei Zahlen</translation></message>
<message><source>line {line}: {value:g} stands where a whole number should</source><translation>Zeile {line}: {value:g} steht, wo eine ganze Zahl stehen sollte</translation></message>
<message><source>line {number}: '{line}' is nothing a PLY header has</source><translation>Zeile {number}: „{line}“ ist nichts, was ein PLY-Kopf hat</translation></message>
<message><source>lines as drawn</source><translation>Linien wie gezeichnet</translation></message>
<message><source>location</source><translation>Lage</translation></message>
<message><source>log</source><translation>log</translation></message>
<message><source>log messages history</source><comment>other words</comment><translation>Protokoll Meldungen Verlauf</translation></message>
<message><source>longest</source><translation>längste</translation></message>
<message><source>longest extent</source><translation>längste Ausdehnung</translation></message>
<message><source>longest side</source><translation>längste Seite</translation></message>
<message><source>looking for models</source><translation>sucht nach Modellen</translation></message>
<message><source>looking where it cuts: {percent} %</source><translation>sucht, wo es schneidet: {percent} %</translation></message>
<message><source>looks</source><translation>Aussehen</translation></message>
<message><source>lost missing colours textures hierarchy animation gone</source><comment>symptoms</comment><translation>verloren fehlt Farben Texturen Hierarchie Animation weg</translation></message>
<message><source>low</source><translation>niedrig</translation></message>
<message><source>lower than wide</source><translation>niedriger als breit</translation></message>
<message><source>made in</source><translation>Einheit</translation></message>
<message><source>major lines as drawn</source><translation>Hauptlinien wie gezeichnet</translation></message>
<message><source>make it</source><translation>bemessen auf</translation></message>
<message><source>make this length</source><translation>auf diese Länge</translation></message>
<message><source>manual</source><translation>Handbuch</translation></message>
<message><source>mark</source><translation>Marke</translation></message>
<message><source>mark '{mark}'</source><translation>Marke „{mark}“</translation></message>
<message><source>mark '{mark}' is a vertex: it points nowhere</source><translation>Marke „{mark}“ ist ein Eckpunkt: er zeigt nirgendwohin</translation></message>
<message><source>mark '{name}' is on several parts: '{name_2}', '{name_3}'{more}</source><translation>Marke „{name}“ ist an mehreren Teilen: „{name_2}“, „{name_3}“{more}</translation></message>
<message><source>mark '{name}': '{name_2}' has no {kind}</source><translation>Marke „{name}“: „{name_2}“ hat nichts davon: {kind}</translation></message>
<message><source>mark '{name}': it has no part '{on}'{did_you_mean}</source><translation>Marke „{name}“: es hat kein Teil „{on}“{did_you_mean}</translation></message>
<message><source>mark '{name}': no {kind} of '{name_2}' fits; the nearest {told}{turned}</source><translation>Marke „{name}“: an „{name_2}“ passt nichts davon: {kind}; am nächsten {told}{turned}</translation></message>
<message><source>mark '{name}': two of '{name_2}' fit as well, one {one}, one {other}</source><translation>Marke „{name}“: zwei an „{name_2}“ passen gleich gut, eins {one}, eins {other}</translation></message>
<message><source>mark {mark}</source><translation>Marke {mark}</translation></message>
<message><source>mark {name}</source><translation>Marke {name}</translation></message>
<message><source>mark {name}: {what}</source><translation>Marke {name}: {what}</translation></message>
<message><source>mark {take}: </source><translation>Marke {take}: </translation></message>
<message><source>mass</source><translation>Masse</translation></message>
<message><source>match</source><translation>Vorbild</translation></message>
<message><source>match and along go together, and along is width, height or depth then</source><translation>match und along gehören zusammen, und along ist dann width, height oder depth</translation></message>
<message><source>may be refused</source><translation>darf verweigert werden</translation></message>
<message><source>mean</source><translation>Mittel</translation></message>
<message><source>mean of picks</source><translation>Mittel der Wahl</translation></message>
<message><source>mean of vertices</source><translation>Mittelwert der Eckpunkte</translation></message>
<message><source>means</source><translation>Mittel</translation></message>
<message><source>measure</source><translation>messen</translation></message>
<message><source>measure distance angle</source><comment>other words</comment><translation>messen Abstand Winkel</translation></message>
<message><source>measured distance</source><translation>gemessener Abstand</translation></message>
<message><source>measures {raw} is not known; this is version {_version}</source><translation>measures {raw} ist nicht bekannt; dies ist Version {_version}</translation></message>
<message><source>memory is limited to {mb} MB, and no process can begin in less than {least} MB (see ulimit -v)</source><translation>der Speicher ist auf {mb} MB begrenzt, und unter {least} MB kann kein Prozess anfangen (siehe ulimit -v)</translation></message>
<message><source>mesh '{name}' would come apart in {count} pieces, over {_most_pieces}</source><translation>Netz „{name}“ zerfiele in {count} Stücke, mehr als {_most_pieces}</translation></message>
<message><source>mesh {index}</source><translation>Netz {index}</translation></message>
<message><source>mesh {index} has joints for {count} of {count_2} vertices</source><translation>Netz {index} hat Gelenke für {count} von {count_2} Eckpunkten</translation></message>
<message><source>mesh {index} has no list of primitives with attributes</source><translation>Netz {index} hat keine Liste von Primitiven mit Attributen</translation></message>
<message><source>mesh {index} has primitives with different numbers of morph targets</source><translation>Netz {index} hat Primitive mit verschieden vielen Morphzielen</translation></message>
<message><source>mesh {index} names joint {max} of {count}</source><translation>Netz {index} nennt Gelenk {max} von {count}</translation></message>
<message><source>mesh {mesh} has a morph target of {count} vertices for {count_2}</source><translation>Netz {mesh} hat ein Morphziel von {count} Eckpunkten statt {count_2}</translation></message>
<message><source>mesh {mesh} has a morph target whose {kind} is not of {count} vertices</source><translation>Netz {mesh} hat ein Morphziel, dessen {kind} nicht {count} Eckpunkte hat</translation></message>
<message><source>mesh {mesh} has an index {max} for {vertices} vertices</source><translation>Netz {mesh} hat einen Index {max} für {vertices} Eckpunkte</translation></message>
<message><source>mesh {mesh} has an unknown primitive mode {mode}</source><translation>Netz {mesh} hat eine unbekannte Primitivart {mode}</translation></message>
<message><source>mesh {mesh} has indices that are no unsigned integers</source><translation>Netz {mesh} hat Indizes, die keine vorzeichenlosen ganzen Zahlen sind</translation></message>
<message><source>mesh {mesh} has joints and weights that do not go together</source><translation>Netz {mesh} hat Gelenke und Gewichte, die nicht zusammengehören</translation></message>
<message><source>mesh {mesh} has morph targets that are no list of attributes</source><translation>Netz {mesh} hat Morphziele, die keine Liste von Attributen sind</translation></message>
<message><source>mesh {mesh} has no positions that can be read: {unread}</source><translation>Netz {mesh} hat keine Positionen, die sich lesen lassen: {unread}</translation></message>
<message><source>mesh {mesh} has positions of {shape} numbers</source><translation>Netz {mesh} hat Positionen aus {shape} Zahlen</translation></message>
<message><source>mesh {mesh} has {count} normals for {count_2} positions</source><translation>Netz {mesh} hat {count} Normalen für {count_2} Positionen</translation></message>
<message><source>mesh {mesh} has {count} of {name} for {count_2} vertices</source><translation>Netz {mesh} hat {count} von {name} für {count_2} Eckpunkte</translation></message>
<message><source>mesh {mesh}: its compressed geometry</source><translation>Netz {mesh}: seine komprimierte Geometrie</translation></message>
<message><source>metre</source><translation>Meter</translation></message>
<message><source>metres</source><translation>Meter</translation></message>
<message><source>metres per unit must be a positive number, not {value}</source><translation>Meter je Einheit müssen eine positive Zahl sein, nicht {value}</translation></message>
<message><source>metres per unit must be positive, not {metres_per_unit}</source><translation>Meter je Einheit müssen positiv sein, nicht {metres_per_unit}</translation></message>
<message><source>metric</source><translation>metrisch</translation></message>
<message><source>metric, always {unit_word}</source><translation>metrisch, immer {unit_word}</translation></message>
<message><source>metric, as it suits each length</source><translation>metrisch, wie es zu jeder Länge passt</translation></message>
<message><source>middle</source><translation>Mitte</translation></message>
<message><source>millimetre</source><translation>Millimeter</translation></message>
<message><source>millimetres</source><translation>Millimeter</translation></message>
<message><source>min_m and max_m are numbers of metres</source><translation>min_m und max_m sind Zahlen in Metern</translation></message>
<message><source>mirrored</source><translation>gespiegelt</translation></message>
<message><source>mirrored by a negative scale</source><translation>durch negative Skalierung gespiegelt</translation></message>
<message><source>mirrored faces are wound the other way round</source><translation>gespiegelte Flächen laufen andersherum um</translation></message>
<message><source>module</source><translation>Modul</translation></message>
<message><source>modules</source><translation>Module</translation></message>
<message><source>modules: {words}</source><translation>Module: {words}</translation></message>
<message><source>more ways</source><translation>weitere Wege</translation></message>
<message><source>most of it is high up as it lies</source><translation>so, wie es liegt, ist das meiste oben</translation></message>
<message><source>most of it is low so</source><translation>so ist das meiste unten</translation></message>
<message><source>move</source><translation>bewegen</translation></message>
<message><source>move translate shift</source><comment>other words</comment><translation>bewegen verschieben</translation></message>
<message><source>move with time, which is not carried in USD</source><translation>bewegen sich mit der Zeit, was in USD nicht mitgenommen wird</translation></message>
<message><source>move {distances}</source><translation>bewegen {distances}</translation></message>
<message><source>moved</source><translation>bewegt</translation></message>
<message><source>moved along: {names}{tail}</source><translation>mitbewegt: {names}{tail}</translation></message>
<message><source>moved place</source><translation>verschobener Ort</translation></message>
<message><source>moved {far}</source><translation>um {far} bewegt</translation></message>
<message><source>moved {names}</source><translation>verschoben {names}</translation></message>
<message><source>name pattern</source><translation>Namensmuster</translation></message>
<message><source>named</source><translation>benannt</translation></message>
<message><source>named part</source><translation>genanntes Teil</translation></message>
<message><source>named values</source><translation>benannte Werte</translation></message>
<message><source>named {count}</source><translation>benannt {count}</translation></message>
<message><source>names '{name}', which is over the limit of {file_bytes} bytes</source><translation>nennt „{name}“, das über der Grenze von {file_bytes} Bytes ist</translation></message>
<message><source>names a vertex that is not there (there are {vertices})</source><translation>nennt einen Eckpunkt, der nicht da ist (es gibt {vertices})</translation></message>
<message><source>names a {what} that is not there (there are {high})</source><translation>nennt etwas, das nicht da ist: {what} (es gibt {high})</translation></message>
<message><source>names files outside its folder</source><translation>nennt Dateien außerhalb seines Ordners</translation></message>
<message><source>narrow</source><translation>schmal</translation></message>
<message><source>narrower</source><translation>schmaler</translation></message>
<message><source>needs more memory than there is</source><translation>braucht mehr Speicher, als da ist</translation></message>
<message><source>nests prims and references deeper than can be followed</source><translation>schachtelt Prims und Verweise tiefer, als sich verfolgen lässt</translation></message>
<message><source>no 'prep-sheet: 1'</source><translation>kein „prep-sheet: 1“</translation></message>
<message><source>no batch</source><translation>kein Stapel</translation></message>
<message><source>no geometry</source><translation>keine Geometrie</translation></message>
<message><source>no geometry in it</source><translation>keine Geometrie darin</translation></message>
<message><source>no geometry in it is shown</source><translation>keine Geometrie darin wird gezeigt</translation></message>
<message><source>no groups</source><translation>keine Gruppen</translation></message>
<message><source>no list called '{_face}'</source><translation>keine Liste namens „{_face}“</translation></message>
<message><source>no node</source><translation>keinem Knoten</translation></message>
<message><source>no node of that name</source><translation>kein Knoten dieses Namens</translation></message>
<message><source>no process can be started: {strerror}</source><translation>kein Prozess lässt sich starten: {strerror}</translation></message>
<message><source>no rows</source><translation>keine</translation></message>
<message><source>no set-out</source><translation>kein Aufbau</translation></message>
<message><source>no size book</source><translation>kein Maßbuch</translation></message>
<message><source>no step</source><translation>ohne Schritt</translation></message>
<message><source>no two sides are mirrored as it lies</source><translation>so, wie es liegt, sind keine zwei Seiten gespiegelt</translation></message>
<message><source>no vertex is further off than {furthest}</source><translation>kein Eckpunkt weicht weiter ab als {furthest}</translation></message>
<message><source>node</source><translation>Knoten</translation></message>
<message><source>node '{name_of}' places '{get}', not there</source><translation>der Knoten „{name_of}“ setzt „{get}“ ein, das nicht da ist</translation></message>
<message><source>node '{name}'</source><translation>Knoten „{name}“</translation></message>
<message><source>node '{name}' is an empty element, which holds no place</source><translation>der Knoten „{name}“ ist ein leeres Element, das keinen Ort hält</translation></message>
<message><source>node '{name}' would be sheared, which a glTF node can't hold</source><translation>der Knoten „{name}“ würde geschert, was ein glTF-Knoten nicht halten kann</translation></message>
<message><source>node '{name}': its scale is zero along an axis, so it has no axes</source><translation>Knoten „{name}“: die Skalierung ist entlang einer Achse null, also hat er keine Achsen</translation></message>
<message><source>node '{url}' is placed inside itself</source><translation>der Knoten „{url}“ ist in sich selbst eingesetzt</translation></message>
<message><source>node {c} has two parents, {parent} and {i}</source><translation>Knoten {c} hat zwei Übergeordnete, {parent} und {i}</translation></message>
<message><source>node {index} is its own ancestor</source><translation>Knoten {index} ist sein eigener Vorfahr</translation></message>
<message><source>node {i}</source><translation>Knoten {i}</translation></message>
<message><source>node {i} has children that are no list</source><translation>Knoten {i} hat Kinder, die keine Liste sind</translation></message>
<message><source>node {i} names skin {skin}, which is not there</source><translation>Knoten {i} nennt Skin {skin}, der nicht da ist</translation></message>
<message><source>node {i}'s child</source><translation>Kind von Knoten {i}</translation></message>
<message><source>node {i}'s mesh</source><translation>Netz von Knoten {i}</translation></message>
<message><source>node {node} has an instance with a rotation of zeros</source><translation>Knoten {node} hat eine Instanz mit einer Drehung aus Nullen</translation></message>
<message><source>node {node} has instances whose {name} is not {width} finite numbers each</source><translation>Knoten {node} hat Instanzen, deren {name} nicht je {width} endliche Zahlen ist</translation></message>
<message><source>node {node} has instances with different numbers of channels</source><translation>Knoten {node} hat Instanzen mit verschieden vielen Kanälen</translation></message>
<message><source>nodes</source><translation>Knoten</translation></message>
<message><source>nodes share one mesh</source><translation>Knoten teilen sich ein Netz</translation></message>
<message><source>none</source><translation>keine</translation></message>
<message><source>normal </source><translation>Normale </translation></message>
<message><source>not finite</source><translation>nicht endlich</translation></message>
<message><source>not in the batch</source><translation>nicht im Stapel</translation></message>
<message><source>not on the ground</source><translation>nicht auf dem Boden</translation></message>
<message><source>not saved</source><translation>nicht gespeichert</translation></message>
<message><source>not standing on end</source><translation>nicht hochkant</translation></message>
<message><source>not there any more</source><translation>nicht mehr da</translation></message>
<message><source>not {skip}</source><translation>nicht {skip}</translation></message>
<message><source>note</source><translation>Notiz</translation></message>
<message><source>note: {note}</source><translation>Notiz: {note}</translation></message>
<message><source>nothing</source><translation>nichts</translation></message>
<message><source>nothing</source><comment>follows</comment><translation>nichts</translation></message>
<message><source>nothing declares the unit</source><translation>nichts erklärt die Einheit</translation></message>
<message><source>nothing follows</source><translation>nichts folgt</translation></message>
<message><source>nothing kept yet</source><translation>noch nichts behalten</translation></message>
<message><source>nothing open yet</source><translation>noch nichts offen</translation></message>
<message><source>nothing tells it</source><translation>nichts sagt es</translation></message>
<message><source>nothing to settle</source><translation>nichts zu erledigen</translation></message>
<message><source>object '{name}'</source><translation>Objekt „{name}“</translation></message>
<message><source>object {ident} has a triangle that names a vertex that is not there (there are {there})</source><translation>Objekt {ident} hat ein Dreieck, das einen Eckpunkt nennt, der nicht da ist (es gibt {there})</translation></message>
<message><source>object {ident} has more than vertices and triangles, which can't be cut</source><translation>Objekt {ident} hat mehr als Eckpunkte und Dreiecke und lässt sich nicht teilen</translation></message>
<message><source>object {ident} has rows that are not well formed, and can't be cut</source><translation>Objekt {ident} hat Zeilen, die nicht wohlgeformt sind, und lässt sich nicht teilen</translation></message>
<message><source>object {ident} is built with its own {what}, which it would lose</source><translation>Objekt {ident} wird mit eigenem {what} gebaut, das es verlöre</translation></message>
<message><source>object {ident} is placed with other geometry for {names}: a copy, object {fresh}, was made</source><translation>Objekt {ident} ist für {names} mit anderer Geometrie gesetzt: eine Kopie, Objekt {fresh}, wurde gemacht</translation></message>
<message><source>odd</source><translation>Ausreißer</translation></message>
<message><source>of</source><translation>von</translation></message>
<message><source>of each part itself</source><translation>jedes Teils selbst</translation></message>
<message><source>of the world</source><translation>der Welt</translation></message>
<message><source>of: asset is the whole asset, it takes no parts</source><translation>of: asset ist das ganze Modell, es nimmt keine parts</translation></message>
<message><source>off its berth</source><translation>vom Platz</translation></message>
<message><source>off the origin</source><translation>vom Ursprung</translation></message>
<message><source>on a card of the sheet</source><translation>auf einer Karte des Blatts</translation></message>
<message><source>on a card or a favourite</source><translation>auf einer Karte oder einem Favoriten</translation></message>
<message><source>on its base</source><translation>auf seiner Unterseite</translation></message>
<message><source>on the box of points</source><translation>auf dem Kasten der Punkte</translation></message>
<message><source>on the ground</source><translation>auf dem Boden</translation></message>
<message><source>on this batch</source><translation>an diesem Stapel</translation></message>
<message><source>on top of it</source><translation>oben darauf</translation></message>
<message><source>one unit in the file is one</source><translation>die Einheit der Datei ist</translation></message>
<message><source>one unit is {metres_per_unit:g} m</source><translation>eine Einheit ist {metres_per_unit:g} m</translation></message>
<message><source>one unit is {metres_per_unit:g} m, not {wanted:g} m</source><translation>eine Einheit ist {metres_per_unit:g} m, nicht {wanted:g} m</translation></message>
<message><source>only what is not clean</source><translation>nur was nicht sauber ist</translation></message>
<message><source>only {name}</source><translation>nur {name}</translation></message>
<message><source>only {parts}</source><translation>nur {parts}</translation></message>
<message><source>onto mark {mark}</source><translation>auf Marke {mark}</translation></message>
<message><source>onto {onto}, {point}</source><translation>auf {onto}, {point}</translation></message>
<message><source>open</source><translation>offen</translation></message>
<message><source>open step {number}</source><translation>Schritt {number} öffnen</translation></message>
<message><source>or</source><translation>oder</translation></message>
<message><source>or a quarter on</source><translation>oder eine Vierteldrehung weiter</translation></message>
<message><source>or along a datum…</source><translation>oder entlang eines Bezugs …</translation></message>
<message><source>or along each axis by itself</source><translation>oder entlang jeder Achse für sich</translation></message>
<message><source>or away from a centre</source><translation>oder weg von einer Mitte</translation></message>
<message><source>or directions by numbers</source><translation>oder Richtungen in Zahlen</translation></message>
<message><source>or half a turn about its own</source><translation>oder eine halbe Drehung um die eigene</translation></message>
<message><source>or on from where it is, by</source><translation>oder weiter von da, wo er ist, um</translation></message>
<message><source>or one is</source><translation>oder eine ist</translation></message>
<message><source>or one of them is brought round</source><translation>oder eine von ihnen wird herumgebracht</translation></message>
<message><source>or onto another</source><translation>oder auf ein anderes</translation></message>
<message><source>or single files, a prep sheet, a size book</source><translation>oder einzelne Dateien, ein Vorbereitungsblatt, ein Maßbuch</translation></message>
<message><source>or the distance of two picks, found on each asset</source><translation>oder der Abstand zweier Punkte</translation></message>
<message><source>or those of</source><translation>oder die von</translation></message>
<message><source>or times</source><translation>oder mal</translation></message>
<message><source>or to a point</source><translation>oder auf einen Punkt</translation></message>
<message><source>or to the other side of the asset</source><translation>oder auf die andere Seite des Modells</translation></message>
<message><source>or to x, y, z</source><translation>oder auf x, y, z</translation></message>
<message><source>or turned by degrees about x, then y, then z</source><translation>oder in Grad gedreht, um x, dann y, dann z</translation></message>
<message><source>origin</source><translation>Ursprung</translation></message>
<message><source>origin moved {off} to its {point}</source><translation>Ursprung um {off} bewegt: {point}</translation></message>
<message><source>origin off its base middle</source><translation>Ursprung nicht in der Mitte der Unterseite</translation></message>
<message><source>outside the size book</source><translation>außerhalb des Maßbuchs</translation></message>
<message><source>over 1000 ×</source><translation>über 1000 ×</translation></message>
<message><source>over 99 %</source><translation>über 99 %</translation></message>
<message><source>over and below the views</source><translation>über und unter den Ansichten</translation></message>
<message><source>own</source><translation>eigene</translation></message>
<message><source>own axes</source><translation>eigene Achsen</translation></message>
<message><source>own axes (of its root)</source><translation>eigene Achsen (seiner Wurzel)</translation></message>
<message><source>own axes now follow the parent's</source><translation>eigene Achsen folgen nun denen des Übergeordneten</translation></message>
<message><source>own mesh</source><translation>eigenes Netz</translation></message>
<message><source>parent</source><translation>Eltern</translation></message>
<message><source>parent axes</source><translation>Achsen des Übergeordneten</translation></message>
<message><source>parent group hang attach</source><comment>other words</comment><translation>Gruppe anhängen einhängen</translation></message>
<message><source>parent's</source><translation>Eltern</translation></message>
<message><source>parent, children and vertices are a node's: they need of: parts, groups or all</source><translation>parent, children und vertices sind die eines Knotens: sie brauchen of: parts, groups oder all</translation></message>
<message><source>part</source><translation>Teil</translation></message>
<message><source>part '{name}'</source><translation>Teil „{name}“</translation></message>
<message><source>part '{name}' has {count} vertices, and no vertex {max}</source><translation>Teil „{name}“ hat {count} Eckpunkte und keinen Eckpunkt {max}</translation></message>
<message><source>part {name}</source><translation>Teil {name}</translation></message>
<message><source>parts</source><translation>Teile</translation></message>
<message><source>parts '{a}' and '{b}' share vertices, and would have to move apart</source><translation>die Teile „{a}“ und „{b}“ haben gemeinsame Eckpunkte und müssten auseinanderrücken</translation></message>
<message><source>parts have one name</source><translation>Teile heißen gleich</translation></message>
<message><source>parts of {title} files</source><translation>Teile von {title}-Dateien</translation></message>
<message><source>parts that are not shown</source><translation>Teile, die nicht gezeigt werden</translation></message>
<message><source>parts {glob} match nothing</source><translation>Teile {glob} treffen auf nichts zu</translation></message>
<message><source>path or name</source><translation>Pfad oder Name</translation></message>
<message><source>path resampled</source><translation>Pfad neu abgetastet</translation></message>
<message><source>pause it</source><translation>ihn anhalten</translation></message>
<message><source>paused</source><translation>ausgesetzt</translation></message>
<message><source>physics collision particles gravity children too big too small wrong size scale</source><comment>symptoms</comment><translation>Physik Kollision Partikel Schwerkraft Kinder zu groß zu klein falsche Größe Skalierung</translation></message>
<message><source>pick by name: blade_*…</source><translation>nach Namen wählen: blade_*…</translation></message>
<message><source>pick in the view</source><translation>im Bild wählen</translation></message>
<message><source>pick it in the view…</source><translation>in der Ansicht wählen …</translation></message>
<message><source>pick those that don't fit</source><translation>die auswählen, die nicht passen</translation></message>
<message><source>picked</source><translation>gewählte</translation></message>
<message><source>picked {count}</source><translation>gewählte {count}</translation></message>
<message><source>pink white grey missing texture picture material</source><comment>symptoms</comment><translation>rosa weiß grau Textur fehlt Bild Material</translation></message>
<message><source>pivot</source><translation>Drehpunkt</translation></message>
<message><source>pivot  {at}&#10;rotation  {turned:.4g}°   scale  {scale}&#10;box  {size}</source><translation>Drehpunkt  {at}&#10;Drehung  {turned:.4g}°   Skalierung  {scale}&#10;Kasten  {size}</translation></message>
<message><source>pivot of</source><translation>Drehpunkt von</translation></message>
<message><source>pivot of {name}, {far} away</source><translation>Drehpunkt von {name}, {far} entfernt</translation></message>
<message><source>pivot outside its part</source><translation>Drehpunkt außerhalb seines Teils</translation></message>
<message><source>pivots only, geometry stays  ·  </source><translation>nur Drehpunkte, die Geometrie bleibt  ·  </translation></message>
<message><source>pivots sent to their parent's origin</source><translation>Drehpunkte auf den Ursprung des Übergeordneten geschickt</translation></message>
<message><source>place across</source><translation>Ort gegenüber</translation></message>
<message><source>place as received</source><translation>Ort wie erhalten</translation></message>
<message><source>place goes 'at' a point or 'away' from one, not both</source><translation>place geht „at“ einen Punkt oder „away“ von einem, nicht beides</translation></message>
<message><source>place needs 'at', 'away', 'ground: true' or 'shift': it would move nothing</source><translation>place braucht „at“, „away“, „ground: true“ oder „shift“: sonst bewegte es nichts</translation></message>
<message><source>places '{url}' of another file, which is not read: bring them into one file first</source><translation>setzt „{url}“ aus einer anderen Datei ein, die nicht gelesen wird: zuerst in eine Datei bringen</translation></message>
<message><source>places node '{url}', which is not there</source><translation>setzt den Knoten „{url}“ ein, der nicht da ist</translation></message>
<message><source>places object {found}, which is not there</source><translation>setzt Objekt {found} ein, das nicht da ist</translation></message>
<message><source>plane</source><translation>Ebene</translation></message>
<message><source>play</source><translation>abspielen</translation></message>
<message><source>point</source><translation>Punkt</translation></message>
<message><source>prep-sheet {version} is not known; this is version 1</source><translation>prep-sheet {version} ist nicht bekannt; dies ist Version 1</translation></message>
<message><source>presets templates library</source><comment>other words</comment><translation>Vorlagen Bibliothek</translation></message>
<message><source>processes end as soon as they begin{room} (see ulimit -v)</source><translation>Prozesse enden, sobald sie anfangen{room} (siehe ulimit -v)</translation></message>
<message><source>proportions</source><translation>Verhältnis</translation></message>
<message><source>quaternion  {told}</source><translation>Quaternion  {told}</translation></message>
<message><source>radius</source><translation>Radius</translation></message>
<message><source>re-opened, '{name}' and '{name_2}' no longer share their mesh</source><translation>wieder geöffnet teilen „{name}“ und „{name_2}“ ihr Netz nicht mehr</translation></message>
<message><source>re-opened, '{name}' hangs from another node</source><translation>wieder geöffnet hängt „{name}“ an einem anderen Knoten</translation></message>
<message><source>re-opened, '{name}' has lost or gained {lost}</source><translation>wieder geöffnet hat „{name}“ verloren oder gewonnen: {lost}</translation></message>
<message><source>re-opened, '{name}' has {bad} coordinates that are NaN or infinite</source><translation>wieder geöffnet hat „{name}“ {bad} Koordinaten, die NaN oder unendlich sind</translation></message>
<message><source>re-opened, '{name}' has {count} morph targets for {count_2}</source><translation>wieder geöffnet hat „{name}“ {count} Morphziele statt {count_2}</translation></message>
<message><source>re-opened, '{name}' has {count} triangles for {count_2}</source><translation>wieder geöffnet hat „{name}“ {count} Dreiecke statt {count_2}</translation></message>
<message><source>re-opened, '{name}' has {count} vertices for {count_2}</source><translation>wieder geöffnet hat „{name}“ {count} Eckpunkte statt {count_2}</translation></message>
<message><source>re-opened, '{name}' is shown where it was hidden, or the other way</source><translation>wieder geöffnet, ist „{name}“ sichtbar, wo es verborgen war, oder umgekehrt</translation></message>
<message><source>re-opened, a face of '{name}' has other corners, or is turned inside out</source><translation>wieder geöffnet hat eine Fläche von „{name}“ andere Ecken oder ist umgestülpt</translation></message>
<message><source>re-opened, a triangle of '{name}' has other corners, or is turned inside out</source><translation>wieder geöffnet hat ein Dreieck von „{name}“ andere Ecken oder ist umgestülpt</translation></message>
<message><source>re-opened, it declares {metres:g} m and {up} up, where {metres_2:g} m and {up_2} up were written</source><translation>wieder geöffnet, gibt es {metres:g} m und {up} als oben an, geschrieben wurden {metres_2:g} m und {up_2}</translation></message>
<message><source>re-opened, it has frames that are NaN or infinite</source><translation>wieder geöffnet hat es Rahmen, die NaN oder unendlich sind</translation></message>
<message><source>re-opened, it has {count} clips for {count_2}</source><translation>wieder geöffnet hat es {count} Clips statt {count_2}</translation></message>
<message><source>re-opened, it has {count} nodes for {count_2}</source><translation>wieder geöffnet hat es {count} Knoten statt {count_2}</translation></message>
<message><source>re-opened, it has {count} triangles for {count_2}</source><translation>wieder geöffnet hat es {count} Dreiecke statt {count_2}</translation></message>
<message><source>re-opened, its {what} are not what they were</source><translation>wieder geöffnet nicht mehr, was es war: {what}</translation></message>
<message><source>re-opened, no node is called '{name}', or it stands elsewhere</source><translation>wieder geöffnet, heißt kein Knoten „{name}“, oder er steht woanders</translation></message>
<message><source>re-opened, node {i} is '{name}' in place of '{name_2}'</source><translation>wieder geöffnet ist Knoten {i} „{name}“ statt „{name_2}“</translation></message>
<message><source>re-opened, the clip '{name}' is called '{name_2}'</source><translation>wieder geöffnet, heißt der Clip „{name}“ nun „{name_2}“</translation></message>
<message><source>re-opened, the clip '{name}' weighs morph targets otherwise</source><translation>wieder geöffnet, gewichtet der Clip „{name}“ Morphziele anders</translation></message>
<message><source>re-opened, the faces of '{name}' have other numbers of corners</source><translation>wieder geöffnet haben die Flächen von „{name}“ andere Eckenzahlen</translation></message>
<message><source>re-opened, the materials of '{name}' are not what they were</source><translation>wieder geöffnet sind die Materialien von „{name}“ nicht, was sie waren</translation></message>
<message><source>re-opened, the mesh of '{name}' is called '{name_2}'</source><translation>wieder geöffnet heißt das Netz von „{name}“ „{name_2}“</translation></message>
<message><source>re-opened, two materials of '{name}' have become one</source><translation>wieder geöffnet: Zwei Materialien von „{name}“ sind eins geworden</translation></message>
<message><source>re-opened, what the mesh of '{name}' has beside its numbers is not what it was</source><translation>wieder geöffnet, ist nicht mehr, was das Netz von „{name}“ neben seinen Zahlen hat</translation></message>
<message><source>re-opened, {trouble}</source><translation>wieder geöffnet: {trouble}</translation></message>
<message><source>reading</source><translation>wird gelesen</translation></message>
<message><source>reading, {total} of {total_2}</source><translation>liest, {total} von {total_2}</translation></message>
<message><source>reading…</source><translation>wird gelesen …</translation></message>
<message><source>reads</source><translation>Wert</translation></message>
<message><source>ready</source><translation>bereit</translation></message>
<message><source>received</source><translation>erhalten</translation></message>
<message><source>recent batches</source><translation>zuletzt geöffnete Stapel</translation></message>
<message><source>recent sheets</source><translation>zuletzt geöffnete Blätter</translation></message>
<message><source>refers to '{astray}', which lies outside its folder, so that it can't go along</source><translation>verweist auf „{astray}“, das außerhalb seines Ordners liegt und nicht mitgehen kann</translation></message>
<message><source>refers to '{reference}', which is no path inside its folder</source><translation>verweist auf „{reference}“, was kein Pfad in seinem Ordner ist</translation></message>
<message><source>refers to '{reference}', which lies outside its folder</source><translation>verweist auf „{reference}“, das außerhalb seines Ordners liegt</translation></message>
<message><source>refers to '{reference}', which lies outside the package</source><translation>verweist auf „{reference}“, das außerhalb des Pakets liegt</translation></message>
<message><source>refresh reload update</source><comment>other words</comment><translation>aktualisieren neu laden</translation></message>
<message><source>refused</source><translation>verweigert</translation></message>
<message><source>remove it</source><translation>ihn entfernen</translation></message>
<message><source>rename marks names</source><comment>other words</comment><translation>umbenennen Marken Namen</translation></message>
<message><source>reset</source><translation>zurücksetzen</translation></message>
<message><source>right</source><translation>rechts</translation></message>
<message><source>right</source><comment>rows</comment><translation>rechts</translation></message>
<message><source>right angles</source><translation>rechtwinklig</translation></message>
<message><source>rim</source><translation>Rand</translation></message>
<message><source>rotate turn spin</source><comment>other words</comment><translation>rotieren drehen</translation></message>
<message><source>rotation</source><translation>Drehung</translation></message>
<message><source>rotation left on a node</source><translation>Drehung an einem Knoten geblieben</translation></message>
<message><source>row {k}: {why}</source><translation>Zeile {k}: {why}</translation></message>
<message><source>rows</source><translation>Reihen</translation></message>
<message><source>same folder</source><translation>selber Ordner</translation></message>
<message><source>scale</source><translation>Skalierung</translation></message>
<message><source>scale left on a node</source><translation>Skalierung an einem Knoten geblieben</translation></message>
<message><source>scale size resize</source><comment>other words</comment><translation>skalieren Größe</translation></message>
<message><source>scale {shown}{tail}</source><translation>Skalierung {shown}{tail}</translation></message>
<message><source>second arm</source><translation>zweiter Schenkel</translation></message>
<message><source>see there</source><translation>siehe dort</translation></message>
<message><source>seems to lie on its side</source><translation>scheint auf der Seite zu liegen</translation></message>
<message><source>seen from the {side}, flat</source><translation>flach, gesehen von: {side}</translation></message>
<message><source>select an asset, or pick parts, to take hold of</source><translation>ein Modell auswählen oder Teile wählen, um zuzugreifen</translation></message>
<message><source>selected {selected}</source><translation>ausgewählte {selected}</translation></message>
<message><source>separate split loose pieces</source><comment>other words</comment><translation>trennen zerlegen lose Stücke</translation></message>
<message><source>set</source><translation>setzen</translation></message>
<message><source>set down what is selected</source><translation>Ausgewähltes absetzen</translation></message>
<message><source>set needs parts: an asset as a whole has no rotation of its own</source><translation>set braucht parts: ein Modell im Ganzen hat keine eigene Drehung</translation></message>
<message><source>set to {values}</source><translation>gesetzt auf {values}</translation></message>
<message><source>set turns a part about its pivot, it takes no about</source><translation>set dreht ein Teil um seinen Drehpunkt, es nimmt kein about</translation></message>
<message><source>set, by, turn, factor or width/height/depth</source><translation>set, by, turn, factor oder width/height/depth</translation></message>
<message><source>set-out</source><translation>Aufbau</translation></message>
<message><source>set-out: 'mod' needs a module length (deliver.module in the sheet)</source><translation>Aufbau: „mod“ braucht eine Modullänge (deliver.module auf dem Blatt)</translation></message>
<message><source>set-out: '{file}' is what an asset is delivered as: give it another name</source><translation>Aufbau: als „{file}“ wird schon ein Modell geliefert: ihm einen anderen Namen geben</translation></message>
<message><source>set-out: '{file}' refers to USD files, and '{file_2}' is delivered as {suffix}</source><translation>Aufbau: „{file}“ verweist auf USD-Dateien, und „{file_2}“ wird als {suffix} geliefert</translation></message>
<message><source>set-out: '{file}' refers to USD files, and {format} is delivered</source><translation>Aufbau: „{file}“ verweist auf USD-Dateien, und geliefert wird {format}</translation></message>
<message><source>set-out: '{f}' is left out of berth '{b}': {error}</source><translation>set-out: „{f}“ kommt nicht an den Liegeplatz „{b}“: {error}</translation></message>
<message><source>set-out: '{f}' was not delivered, and is left out</source><translation>Aufbau: „{f}“ wurde nicht geliefert und ist ausgelassen</translation></message>
<message><source>set-out: berth '{berth}' is at a mark: where it lies among the others is unknown</source><translation>Aufbau: Liegeplatz „{berth}“ ist an einer Marke: wo er unter den anderen liegt, ist unbekannt</translation></message>
<message><source>set-out: no berth '{berth}' is declared{did_you_mean}</source><translation>Aufbau: ein Liegeplatz „{berth}“ ist nicht erklärt{did_you_mean}</translation></message>
<message><source>set-out: not written: read again, {trouble}</source><translation>Aufbau: nicht geschrieben: wieder gelesen, {trouble}</translation></message>
<message><source>set-out: not written: {why}</source><translation>Aufbau: nicht geschrieben: {why}</translation></message>
<message><source>set-out: {error}</source><translation>Aufbau: {error}</translation></message>
<message><source>set-out: {f}: {words}</source><translation>Aufbau: {f}: {words}</translation></message>
<message><source>setting</source><translation>Einstellung</translation></message>
<message><source>settled for {count} of {count_2} here</source><translation>erledigt für {count} von {count_2} hier</translation></message>
<message><source>settled for {times} here</source><translation>hier erledigt für {times}</translation></message>
<message><source>several pivots stand in several places, so x, y and z are all needed</source><translation>mehrere Drehpunkte stehen an mehreren Orten, also braucht es x, y und z</translation></message>
<message><source>shading normals light slanted skewed distorted squashed stretched turns</source><comment>symptoms</comment><translation>Schattierung Normalen Licht schief verzerrt gestaucht gestreckt</translation></message>
<message><source>shading shadow inside out black see through culled flipped normals collision mirrored text</source><comment>symptoms</comment><translation>Schattierung Schatten Innenseite außen schwarz durchsichtig Normalen Kollision spiegelverkehrt Schrift</translation></message>
<message><source>shading shadow light baking black spots collision flickers artefacts normals</source><comment>symptoms</comment><translation>Schattierung Schatten Licht backen schwarze Flecken Kollision flimmert Normalen</translation></message>
<message><source>shall be</source><translation>soll sein</translation></message>
<message><source>shallow</source><translation>flach</translation></message>
<message><source>shape</source><translation>Form</translation></message>
<message><source>shape does one thing: {_ways}</source><translation>shape tut eines: {_ways}</translation></message>
<message><source>shared by instances</source><translation>gemeinsam mit Instanzen</translation></message>
<message><source>shared geometry '{name}' split: '{name}{decode}' for {listed}</source><translation>gemeinsame Geometrie „{name}“ aufgeteilt: „{name}{decode}“ für {listed}</translation></message>
<message><source>shared mesh '{name}' split: {split}</source><translation>gemeinsames Netz „{name}“ aufgeteilt: {split}</translation></message>
<message><source>shares one world with its neighbours</source><translation>steht in einer Welt mit seinen Nachbarn</translation></message>
<message><source>shares one world with {others}: {how}</source><translation>steht in einer Welt mit {others}: {how}</translation></message>
<message><source>sheared</source><translation>geschert</translation></message>
<message><source>shift {distances} {along}</source><translation>verschieben {distances} {along}</translation></message>
<message><source>shortcuts hotkeys keyboard settings preferences</source><comment>other words</comment><translation>Tastenkürzel Tastatur Einstellungen</translation></message>
<message><source>side</source><translation>Seite</translation></message>
<message><source>sides that are up</source><translation>Seiten, die oben sind</translation></message>
<message><source>sinks {length}</source><translation>versinkt {length}</translation></message>
<message><source>size</source><translation>Größe</translation></message>
<message><source>size book</source><translation>Maßbuch</translation></message>
<message><source>size book: {words}</source><translation>Maßbuch: {words}</translation></message>
<message><source>size needs one of factor, width/height/depth, longest, diagonal, between, match</source><translation>size braucht eines von factor, width/height/depth, longest, diagonal, between, match</translation></message>
<message><source>skin {skin} has inverse bind matrices that are not finite</source><translation>Skin {skin} hat Umkehrmatrizen, die nicht endlich sind</translation></message>
<message><source>skin {skin} has no joints</source><translation>Skin {skin} hat keine Gelenke</translation></message>
<message><source>skin {skin} has {count} inverse bind matrices for {count_2} joints</source><translation>Skin {skin} hat {count} Umkehrmatrizen für {count_2} Gelenke</translation></message>
<message><source>skin {skin} names joint {j}, which is not there</source><translation>Skin {skin} nennt Gelenk {j}, das nicht da ist</translation></message>
<message><source>skin {skin} no longer hangs whole from '{name}': that is not said of it now</source><translation>Skin {skin} hängt nicht mehr ganz an „{name}“: das wird nun nicht mehr gesagt</translation></message>
<message><source>slanted</source><translation>schief</translation></message>
<message><source>slanted skewed distorted bent changes shape on import</source><comment>symptoms</comment><translation>schief verzerrt verbogen ändert die Form beim Einlesen</translation></message>
<message><source>slope</source><translation>Hang</translation></message>
<message><source>snap</source><translation>Rasten</translation></message>
<message><source>snapping magnet</source><comment>other words</comment><translation>fangen einrasten</translation></message>
<message><source>sort</source><translation>ordnen</translation></message>
<message><source>sort ▾</source><translation>Ordnen ▾</translation></message>
<message><source>source '{ident}' declares {count} rows of {stride} and has {count_2} numbers</source><translation>die Quelle „{ident}“ erklärt {count} Zeilen zu {stride} und hat {count_2} Zahlen</translation></message>
<message><source>source '{ident}' declares {told} numbers and has {count}: it is damaged</source><translation>die Quelle „{ident}“ erklärt {told} Zahlen und hat {count}: sie ist beschädigt</translation></message>
<message><source>source '{ident}' has a stride of {stride}</source><translation>die Quelle „{ident}“ hat eine Schrittweite von {stride}</translation></message>
<message><source>source '{ident}' is not there, or holds no numbers</source><translation>die Quelle „{ident}“ ist nicht da oder enthält keine Zahlen</translation></message>
<message><source>span</source><translation>Länge</translation></message>
<message><source>sparse accessor {index}</source><translation>dünn besetzter Accessor {index}</translation></message>
<message><source>square</source><translation>rechtwinklig</translation></message>
<message><source>square it up</source><translation>rechtwinklig stellen</translation></message>
<message><source>square: false turns nothing; leave it out</source><translation>square: false dreht nichts; weglassen</translation></message>
<message><source>stage</source><translation>Stufe</translation></message>
<message><source>stands true</source><translation>steht richtig</translation></message>
<message><source>status</source><translation>Ergebnis</translation></message>
<message><source>stays: {words}</source><translation>bleibt: {words}</translation></message>
<message><source>step {i} ({do})</source><translation>Schritt {i} ({do})</translation></message>
<message><source>step {i} ({do}): a reading is of the file, it takes no parts</source><translation>Schritt {i} ({do}): eine Lesart ist eine der Datei, sie nimmt keine Teile</translation></message>
<message><source>step {i} ({do}): is step {k} there</source><translation>Schritt {i} ({do}): dort Schritt {k}</translation></message>
<message><source>step {i} ({do}): mark '{name}' is a vertex, which points nowhere</source><translation>Schritt {i} ({do}): Marke „{name}“ ist ein Eckpunkt, der nirgendwohin zeigt</translation></message>
<message><source>step {i} ({do}): no {kind} '{name}' is declared{hint}</source><translation>Schritt {i} ({do}): nicht erklärt ist {kind} „{name}“{hint}</translation></message>
<message><source>step {i} ({do}): only in the first: {said}</source><translation>Schritt {i} ({do}): nur im ersten: {said}</translation></message>
<message><source>step {i} ({do}{place}): {line}</source><translation>Schritt {i} ({do}{place}): {line}</translation></message>
<message><source>step {i} does not say what to do ('do: …')</source><translation>Schritt {i} sagt nicht, was zu tun ist („do: …“)</translation></message>
<message><source>step {i}: '{do}' is no step{hint}</source><translation>Schritt {i}: „{do}“ ist kein Schritt{hint}</translation></message>
<message><source>step {k}</source><translation>Schritt {k}</translation></message>
<message><source>step {k} ({do}): only in the second: {said}</source><translation>Schritt {k} ({do}): nur im zweiten: {said}</translation></message>
<message><source>step {k}, {title}: {words}</source><translation>Schritt {k}, {title}: {words}</translation></message>
<message><source>step {lacking} ({word}): {reason}</source><translation>Schritt {lacking} ({word}): {reason}</translation></message>
<message><source>step {number} ({do}) matches nothing</source><translation>Schritt {number} ({do}) trifft auf nichts zu</translation></message>
<message><source>step {number} ({do}): {error}</source><translation>Schritt {number} ({do}): {error}</translation></message>
<message><source>step {number} ({do}): {refusal}</source><translation>Schritt {number} ({do}): {refusal}</translation></message>
<message><source>step {number} ({title})</source><translation>Schritt {number} ({title})</translation></message>
<message><source>step {step} ({do}): {w}</source><translation>Schritt {step} ({do}): {w}</translation></message>
<message><source>steps must be a list, one '- {do: …}' each</source><translation>steps muss eine Liste sein, je ein „- {do: …}“</translation></message>
<message><source>stop</source><translation>anhalten</translation></message>
<message><source>surface</source><translation>Oberfläche</translation></message>
<message><source>system theme settings preferences</source><comment>other words</comment><translation>System Design Einstellungen</translation></message>
<message><source>take the vertices of</source><translation>Eckpunkte nehmen von</translation></message>
<message><source>take up the Dividers for</source><translation>den Zirkel nehmen für</translation></message>
<message><source>taken from a pick</source><translation>von der Wahl genommen</translation></message>
<message><source>text, or a length</source><translation>Text oder eine Länge</translation></message>
<message><source>texture '{name}' is left out: glTF holds PNG and JPEG images</source><translation>die Textur „{name}“ bleibt weg: glTF hält Bilder in PNG und JPEG</translation></message>
<message><source>that turn comes back to where it was</source><translation>diese Drehung kommt dorthin zurück, wo es war</translation></message>
<message><source>the apex</source><translation>den Scheitel</translation></message>
<message><source>the asset's own pivot is the origin already</source><translation>der eigene Drehpunkt des Modells ist schon der Ursprung</translation></message>
<message><source>the axes of '{name}' are squared up by {degrees:.2g}°, the rounding of its matrix</source><translation>die Achsen von „{name}“ werden um {degrees:.2g}° rechtwinklig gestellt, die Rundung seiner Matrix</translation></message>
<message><source>the base middle of their common box</source><translation>die Mitte der Unterseite ihres gemeinsamen Kastens</translation></message>
<message><source>the box of its own geometry</source><translation>der Kasten der eigenen Geometrie</translation></message>
<message><source>the box with all below</source><translation>der Kasten mit allem darunter</translation></message>
<message><source>the clip '{name}' of '{name_2}' would need over {_most_keys} keys about its new pivot</source><translation>der Clip „{name}“ von „{name_2}“ bräuchte um seinen neuen Drehpunkt mehr als {_most_keys} Schlüssel</translation></message>
<message><source>the clips of '{name}' can't hold an uneven scale, a shear or a mirror</source><translation>die Clips von „{name}“ können ungleiche Skalierung, Scherung oder Spiegelung nicht halten</translation></message>
<message><source>the colours that its textures are multiplied by</source><translation>die Farben, mit denen seine Texturen malgenommen werden</translation></message>
<message><source>the cut-outs of its materials</source><translation>die Aussparungen seiner Materialien</translation></message>
<message><source>the emission of its materials</source><translation>das Leuchten seiner Materialien</translation></message>
<message><source>the figure</source><translation>die Figur</translation></message>
<message><source>the file</source><translation>die Datei</translation></message>
<message><source>the file declares no unit; taken for metres</source><translation>die Datei erklärt keine Einheit; als Meter genommen</translation></message>
<message><source>the file's unit is</source><translation>die Einheit der Datei ist</translation></message>
<message><source>the file's up is</source><translation>oben ist in der Datei</translation></message>
<message><source>the first one's origin</source><translation>der Ursprung des ersten</translation></message>
<message><source>the first point</source><translation>den ersten Punkt</translation></message>
<message><source>the folder to deliver into</source><translation>der Ordner, in den geliefert wird</translation></message>
<message><source>the folder was taken away while it was filled</source><translation>der Ordner wurde weggenommen, während er gefüllt wurde</translation></message>
<message><source>the folder {folder}</source><translation>der Ordner {folder}</translation></message>
<message><source>the front is a guess: {says}; {front} is taken</source><translation>vorn ist eine Vermutung: {says}; {front} wird genommen</translation></message>
<message><source>the geometry of '{getname}' can't be rewritten here</source><translation>die Geometrie von „{getname}“ lässt sich hier nicht umschreiben</translation></message>
<message><source>the geometry of '{name}' is {sealed}, and does not cross to another format</source><translation>die Geometrie von „{name}“ ist {sealed} und geht nicht in ein anderes Format über</translation></message>
<message><source>the geometry of '{name}' is {sealed}, and no mark can be looked for on it</source><translation>die Geometrie von „{name}“ ist {sealed}, und darauf lässt sich keine Marke suchen</translation></message>
<message><source>the geometry of '{name}' is {sealed}, and this would rewrite it</source><translation>die Geometrie von „{name}“ ist {sealed}, und das würde sie umschreiben</translation></message>
<message><source>the ground</source><translation>der Boden</translation></message>
<message><source>the instances of '{getname}' {_move}</source><translation>die Instanzen von „{getname}“ {_move}</translation></message>
<message><source>the instances of '{name}' would be sheared, which their channels can't hold</source><translation>die Instanzen von „{name}“ würden geschert, was ihre Kanäle nicht halten können</translation></message>
<message><source>the instances of '{name}' would be sized unevenly or mirrored, which they can't hold</source><translation>die Instanzen von „{name}“ würden ungleich bemessen oder gespiegelt, was sie nicht halten können</translation></message>
<message><source>the journal</source><translation>das Journal</translation></message>
<message><source>the lead part's pivot</source><translation>der Drehpunkt des führenden Teils</translation></message>
<message><source>the manual</source><translation>das Handbuch</translation></message>
<message><source>the mean of their pivots</source><translation>der Mittelwert ihrer Drehpunkte</translation></message>
<message><source>the middle of their common box</source><translation>die Mitte ihres gemeinsamen Kastens</translation></message>
<message><source>the middle of what is taken</source><translation>die Mitte des Genommenen</translation></message>
<message><source>the names of its {parts}</source><translation>die Namen, {parts}</translation></message>
<message><source>the names of parts and groups</source><translation>die Namen von Teilen und Gruppen</translation></message>
<message><source>the numbers of '{name}' lie so far from its pivot that float32 steps are {step}</source><translation>die Zahlen von „{name}“ liegen so weit von seinem Drehpunkt, dass float32-Stufen {step} sind</translation></message>
<message><source>the numbers of '{name}' would lie {far} from its pivot, where float32 steps are {step}: place it nearer the origin first, or leave its location</source><translation>die Zahlen von „{name}“ lägen {far} von seinem Drehpunkt, wo float32-Stufen {step} sind: zuerst näher an den Ursprung setzen, oder seine Lage lassen</translation></message>
<message><source>the occlusion of its materials</source><translation>die Verdeckung seiner Materialien</translation></message>
<message><source>the origin</source><translation>der Ursprung</translation></message>
<message><source>the origin is there already</source><translation>der Ursprung ist schon dort</translation></message>
<message><source>the origin is {off} off the middle of its base</source><translation>der Ursprung ist {off} neben der Mitte seiner Unterseite</translation></message>
<message><source>the origin is {outside} outside its footprint</source><translation>der Ursprung ist {outside} außerhalb seines Grundrisses</translation></message>
<message><source>the others are held against it</source><translation>die anderen werden daran gemessen</translation></message>
<message><source>the parent's axes</source><translation>die Achsen des Übergeordneten</translation></message>
<message><source>the part</source><translation>des Teils</translation></message>
<message><source>the pivot of '{name}' lies {off} outside its box</source><translation>der Drehpunkt von „{name}“ liegt {off} außerhalb seines Kastens</translation></message>
<message><source>the pivot of '{name}' would move while the clip '{name_2}' turns or sizes it in steps</source><translation>der Drehpunkt von „{name}“ würde wandern, während der Clip „{name_2}“ es in Stufen dreht oder bemisst</translation></message>
<message><source>the pivot of '{part}'</source><translation>der Drehpunkt von „{part}“</translation></message>
<message><source>the pivot of {name}</source><translation>der Drehpunkt von {name}</translation></message>
<message><source>the pivots of its parts</source><translation>die Drehpunkte seiner Teile</translation></message>
<message><source>the point {names}</source><translation>der Punkt {names}</translation></message>
<message><source>the points of '{getname}' {_move}</source><translation>die Punkte von „{getname}“ {_move}</translation></message>
<message><source>the roughness and metalness of its materials</source><translation>die Rauheit und Metallizität seiner Materialien</translation></message>
<message><source>the scene can't be written: {name}</source><translation>die Szene kann nicht geschrieben werden: {name}</translation></message>
<message><source>the scene's node</source><translation>der Knoten der Szene</translation></message>
<message><source>the second point</source><translation>den zweiten Punkt</translation></message>
<message><source>the set-out</source><translation>der Aufbau</translation></message>
<message><source>the sheet declares no berth '{name}'{did_you_mean}</source><translation>das Blatt erklärt keinen Liegeplatz „{name}“{did_you_mean}</translation></message>
<message><source>the sheet declares no datum '{name}'{did_you_mean}</source><translation>das Blatt erklärt keinen Bezug „{name}“{did_you_mean}</translation></message>
<message><source>the sheet declares no mark '{name}'{did_you_mean}</source><translation>das Blatt erklärt keine Marke „{name}“{did_you_mean}</translation></message>
<message><source>the skin of '{bent}' would be bent: its joints and its shape would not move as one</source><translation>der Skin von „{bent}“ würde verbogen: seine Gelenke und seine Form bewegten sich nicht als eins</translation></message>
<message><source>the surface</source><translation>die Oberfläche</translation></message>
<message><source>the tag '{tag}' is not read: a sheet holds plain values</source><translation>der Tag „{tag}“ wird nicht gelesen: ein Blatt enthält einfache Werte</translation></message>
<message><source>the target format loses something</source><translation>das Zielformat verliert etwas</translation></message>
<message><source>the third point</source><translation>den dritten Punkt</translation></message>
<message><source>the three points lie on one line: no circle goes through them</source><translation>die drei Punkte liegen auf einer Linie: kein Kreis geht durch sie</translation></message>
<message><source>the tour, {k} of {total}</source><translation>der Rundgang, {k} von {total}</translation></message>
<message><source>the unit is a guess: {words}</source><translation>die Einheit ist eine Vermutung: {words}</translation></message>
<message><source>the up axis is a guess: nothing to judge by</source><translation>die Hochachse ist eine Vermutung: nichts, wonach zu urteilen wäre</translation></message>
<message><source>the up axis is a guess: {words}</source><translation>die Hochachse ist eine Vermutung: {words}</translation></message>
<message><source>the up axis is a guess: {words}, which does not go with front {front}</source><translation>die Hochachse ist eine Vermutung: {words}, was nicht zu vorn {front} passt</translation></message>
<message><source>the vertices taken  ·  </source><translation>die genommenen Eckpunkte  ·  </translation></message>
<message><source>the vertices were picked on another mesh than that of '{name}', whose fingerprint is {own}</source><translation>die Eckpunkte wurden an einem anderen Netz als dem von „{name}“ gewählt, dessen Fingerabdruck {own} ist</translation></message>
<message><source>the whole</source><translation>das Ganze</translation></message>
<message><source>the world</source><translation>der Welt</translation></message>
<message><source>the world's</source><translation>der Welt</translation></message>
<message><source>the world's axes</source><translation>der Weltachsen</translation></message>
<message><source>their boxes fit together</source><translation>ihre Kästen passen aneinander</translation></message>
<message><source>their middle</source><translation>ihre Mitte</translation></message>
<message><source>their pivots are there already</source><translation>ihre Drehpunkte sind schon dort</translation></message>
<message><source>then move on by</source><translation>dann weiterbewegen um</translation></message>
<message><source>there is no asset '{name}' in the batch</source><translation>es gibt kein Modell „{name}“ im Stapel</translation></message>
<message><source>there is no asset '{name}' in the batch{did_you_mean}</source><translation>es gibt kein Modell „{name}“ im Stapel{did_you_mean}</translation></message>
<message><source>there is no batch to find '{name}' in</source><translation>es gibt keinen Stapel, in dem „{name}“ zu finden wäre</translation></message>
<message><source>there is no batch to move together with</source><translation>es gibt keine anderen Modelle, mit denen es sich bewegen könnte</translation></message>
<message><source>there is no one length that this could be told from</source><translation>es gibt keine einzelne Länge, von der aus das zu sagen wäre</translation></message>
<message><source>they are there already</source><translation>sie sind schon dort</translation></message>
<message><source>they hang from there already</source><translation>sie hängen schon daran</translation></message>
<message><source>they have no geometry, so no box</source><translation>sie haben keine Geometrie, also keinen Kasten</translation></message>
<message><source>they have that size already</source><translation>sie haben schon diese Größe</translation></message>
<message><source>they stand there already</source><translation>sie stehen schon dort</translation></message>
<message><source>things people model</source><translation>was Leute bauen</translation></message>
<message><source>this folder</source><translation>dieser Ordner</translation></message>
<message><source>those channels are clean already</source><translation>diese Kanäle sind schon sauber</translation></message>
<message><source>tilt</source><translation>Neigung</translation></message>
<message><source>tilt {words}</source><translation>Neigung {words}</translation></message>
<message><source>times as large</source><translation>mal so groß</translation></message>
<message><source>to</source><comment>a direction</comment><translation>nach</translation></message>
<message><source>to</source><comment>up to</comment><translation>bis</translation></message>
<message><source>to </source><translation>bis </translation></message>
<message><source>to  {entry}│</source><translation>bis  {entry}│</translation></message>
<message><source>to a corner, edge, face or circle; or by name</source><translation>auf einen Punkt, auch nach Namen</translation></message>
<message><source>to a pick</source><translation>zu einem Punkt</translation></message>
<message><source>to be fixed</source><translation>zu beheben</translation></message>
<message><source>to be known</source><translation>zu wissen</translation></message>
<message><source>to be looked at</source><translation>anzusehen</translation></message>
<message><source>to its</source><translation>nach</translation></message>
<message><source>to settle at {stage}</source><translation>zu erledigen: {stage}</translation></message>
<message><source>to {values}</source><translation>auf {values}</translation></message>
<message><source>together</source><translation>zusammen</translation></message>
<message><source>together is of whole assets: it takes no parts</source><translation>together gilt für ganze Modelle: es nimmt keine Teile</translation></message>
<message><source>together moves all by one motion: {each} is of each by itself</source><translation>together bewegt alle durch eine Bewegung: {each} gilt für jedes einzeln</translation></message>
<message><source>told in</source><translation>genannt in</translation></message>
<message><source>too big too small huge tiny giant physics gravity heavy floaty light fall-off scale units</source><comment>symptoms</comment><translation>zu groß zu klein riesig winzig Physik Schwerkraft schwer Lichtabfall Maßstab Einheiten</translation></message>
<message><source>too big too small wrong size does not fit scale</source><comment>symptoms</comment><translation>zu groß zu klein falsche Größe passt nicht Maßstab</translation></message>
<message><source>too big too small wrong size units</source><comment>symptoms</comment><translation>zu groß zu klein falsche Größe Einheiten</translation></message>
<message><source>too far out for its numbers</source><translation>zu weit draußen für seine Zahlen</translation></message>
<message><source>took over {seconds} seconds, which no file may</source><translation>brauchte über {seconds} Sekunden, was keine Datei darf</translation></message>
<message><source>top</source><translation>oben</translation></message>
<message><source>top / bottom</source><translation>oben / unten</translation></message>
<message><source>top and bottom are mirrored as it lies</source><translation>so, wie es liegt, sind oben und unten gespiegelt</translation></message>
<message><source>top and bottom differ so</source><translation>so unterscheiden sich oben und unten</translation></message>
<message><source>tray</source><translation>Ablage</translation></message>
<message><source>triangles of no area</source><translation>Dreiecke ohne Flächeninhalt</translation></message>
<message><source>true</source><translation>richtig</translation></message>
<message><source>turn</source><translation>drehen</translation></message>
<message><source>turn about x, then y, then z, in degrees</source><translation>drehen um x, dann y, dann z, in Grad</translation></message>
<message><source>turn in steps of {word}</source><translation>in Schritten von {word} drehen</translation></message>
<message><source>turn takes either {_ways}</source><translation>turn nimmt entweder {_ways}</translation></message>
<message><source>turn without steps</source><translation>ohne Schritte drehen</translation></message>
<message><source>turn {angles}</source><translation>drehen {angles}</translation></message>
<message><source>turned</source><translation>gedreht</translation></message>
<message><source>turned {angles}</source><translation>gedreht {angles}</translation></message>
<message><source>turned {how}</source><translation>gedreht {how}</translation></message>
<message><source>type the axis first: {example}</source><translation>zuerst die Achse tippen: {example}</translation></message>
<message><source>unchanged</source><translation>unverändert</translation></message>
<message><source>under 1 %</source><translation>unter 1 %</translation></message>
<message><source>under {mark}</source><translation>unter {mark}</translation></message>
<message><source>uneven</source><translation>ungleich</translation></message>
<message><source>uneven scale on a node</source><translation>ungleiche Skalierung an einem Knoten</translation></message>
<message><source>unfolds to over {_most_values} values, or over {_deepest} deep</source><translation>entfaltet sich zu mehr als {_most_values} Werten oder mehr als {_deepest} tief</translation></message>
<message><source>unfolds to too many values</source><translation>entfaltet sich zu zu vielen Werten</translation></message>
<message><source>unit</source><translation>Einheit</translation></message>
<message><source>unit in doubt</source><translation>Einheit zweifelhaft</translation></message>
<message><source>unit to be taken</source><translation>Einheit zu übernehmen</translation></message>
<message><source>unit, up and upright are of the whole asset, not of parts</source><translation>unit, up und upright gelten für das ganze Modell, nicht für Teile</translation></message>
<message><source>units</source><translation>Einheiten</translation></message>
<message><source>units in doubt first</source><translation>zweifelhafte Einheiten zuerst</translation></message>
<message><source>units metric imperial inches settings preferences</source><comment>other words</comment><translation>Einheiten metrisch Zoll Einstellungen</translation></message>
<message><source>unknown column '{name}'{did_you_mean}</source><translation>unbekannte Spalte „{name}“{did_you_mean}</translation></message>
<message><source>unknown key '{key}'{did_you_mean}</source><translation>unbekannter Schlüssel „{key}“{did_you_mean}</translation></message>
<message><source>unknown key '{where}'{did_you_mean}</source><translation>unbekannter Schlüssel „{where}“{did_you_mean}</translation></message>
<message><source>unlike its folder</source><translation>anders als sein Ordner</translation></message>
<message><source>up</source><translation>oben</translation></message>
<message><source>up and front</source><translation>up und front</translation></message>
<message><source>up and front, by, set, bring and to, or square</source><translation>up und front, by, set, bring und to, oder square</translation></message>
<message><source>up axis</source><translation>Hochachse</translation></message>
<message><source>up to {end}</source><translation>bis {end}</translation></message>
<message><source>up {up} and front {front} lie on one line</source><translation>oben {up} und vorn {front} liegen auf einer Linie</translation></message>
<message><source>up, front</source><translation>oben, vorn</translation></message>
<message><source>upright</source><translation>aufrecht</translation></message>
<message><source>upside down on its side lying fallen rotated wrong way up axis</source><comment>symptoms</comment><translation>kopfüber auf der Seite liegt umgefallen gedreht verkehrt herum Achse</translation></message>
<message><source>use it, or put it aside</source><translation>verwenden oder weglegen</translation></message>
<message><source>usual for {noun}</source><translation>üblich: {noun}</translation></message>
<message><source>validate test rules</source><comment>other words</comment><translation>prüfen Regeln</translation></message>
<message><source>vertex</source><translation>Eckpunkt</translation></message>
<message><source>vertex colours</source><translation>Eckenfarben</translation></message>
<message><source>vertices</source><translation>Eckpunkte</translation></message>
<message><source>view</source><translation>Ansicht</translation></message>
<message><source>view axes</source><translation>Achsen der Ansicht</translation></message>
<message><source>volume</source><translation>Volumen</translation></message>
<message><source>volume kept</source><translation>Volumen bleibt</translation></message>
<message><source>what '{getname}' refers to is not there</source><translation>worauf „{getname}“ verweist, ist nicht da</translation></message>
<message><source>what else its materials say</source><translation>was seine Materialien sonst sagen</translation></message>
<message><source>what is in no scene</source><translation>was in keiner Szene ist</translation></message>
<message><source>what is tried</source><translation>was versucht wird</translation></message>
<message><source>what it does</source><translation>was es tut</translation></message>
<message><source>what must hold</source><translation>was gelten muss</translation></message>
<message><source>what the manifest says of the set-out is no set-out</source><translation>was das Verzeichnis vom Aufbau sagt, ist kein Aufbau</translation></message>
<message><source>where it stands</source><translation>wo es steht</translation></message>
<message><source>which point of it</source><translation>welcher Punkt davon</translation></message>
<message><source>while an instrument holds something</source><translation>während ein Instrument etwas hält</translation></message>
<message><source>whole</source><translation>ganzes</translation></message>
<message><source>why it is here</source><translation>warum er hier ist</translation></message>
<message><source>wide</source><translation>breit</translation></message>
<message><source>wider</source><translation>breiter</translation></message>
<message><source>width</source><translation>Breite</translation></message>
<message><source>width from</source><translation>Breite von</translation></message>
<message><source>with all below</source><translation>mit allem darunter</translation></message>
<message><source>within</source><translation>innerhalb</translation></message>
<message><source>within must not be less than nothing, not {value}</source><translation>within darf nicht weniger als nichts sein, nicht {value}</translation></message>
<message><source>working out</source><translation>rechnet</translation></message>
<message><source>world</source><translation>Welt</translation></message>
<message><source>world axes</source><translation>Weltachsen</translation></message>
<message><source>world axes ({why})</source><translation>Achsen der Welt ({why})</translation></message>
<message><source>world's</source><translation>der Welt</translation></message>
<message><source>would be</source><translation>würde</translation></message>
<message><source>would have to lean {leans_deg:.1f}°</source><translation>müsste sich {leans_deg:.1f}° neigen</translation></message>
<message><source>write and prove</source><translation>schreiben</translation></message>
<message><source>wrong part moves name clash duplicate animation</source><comment>symptoms</comment><translation>falsches Teil bewegt sich Name doppelt Animation</translation></message>
<message><source>xyz</source><translation>xyz</translation></message>
<message><source>xyz: R = Rx Ry Rz</source><translation>xyz: R = Rx Ry Rz</translation></message>
<message><source>xzy</source><translation>xzy</translation></message>
<message><source>yard</source><translation>Yard</translation></message>
<message><source>yards</source><translation>Yard</translation></message>
<message><source>yxz</source><translation>yxz</translation></message>
<message><source>yzx</source><translation>yzx</translation></message>
<message><source>zero center centre origin home</source><comment>other words</comment><translation>null Zentrum Ursprung</translation></message>
<message><source>zxy</source><translation>zxy</translation></message>
<message><source>zyx</source><translation>zyx</translation></message>
<message><source>{alike} of {count} are most likely {what}{sure}.</source><translation>{alike} von {count} sind am ehesten {what}{sure}.</translation></message>
<message><source>{angle:g}° about {axis}</source><translation>{angle:g}° um {axis}</translation></message>
<message><source>{answer} for {count}</source><translation>{answer} für {count}</translation></message>
<message><source>{answer} up</source><translation>{answer} oben</translation></message>
<message numerus="yes"><source>{applied} of {count} assets</source><translation><numerusform>{applied} von {count} Modell</numerusform><numerusform>{applied} von {count} Modellen</numerusform></translation></message>
<message><source>{applies}, as one</source><translation>{applies}, als eins</translation></message>
<message><source>{assets} as one, by their common box; nothing is tried yet.</source><translation>{assets} als eins, mit ihrem gemeinsamen Kasten; noch wird nichts probiert.</translation></message>
<message><source>{assets} through {steps}, {form}. Sources are never touched.{open_}</source><translation>{assets} durch {steps}, {form}. Die Quellen werden nie angerührt.{open_}</translation></message>
<message><source>{a} of that direction</source><translation>{a} dieser Richtung</translation></message>
<message><source>{a} of the new pivot</source><translation>{a} des neuen Drehpunkts</translation></message>
<message><source>{a} to put it at, in delivery axes</source><translation>{a}, auf das es gesetzt wird, in Lieferachsen</translation></message>
<message><source>{bad} coordinates are NaN or infinite</source><translation>{bad} Koordinaten sind NaN oder unendlich</translation></message>
<message><source>{bad} of its coordinates are NaN or infinite</source><translation>{bad} seiner Koordinaten sind NaN oder unendlich</translation></message>
<message><source>{below} has a '{name}' below it, and USD holds no two of one name there</source><translation>{below} hat schon ein „{name}“ unter sich, und USD fasst dort keine zwei gleichen Namens</translation></message>
<message><source>{best} is up, {percent}</source><translation>{best} ist oben, {percent}</translation></message>
<message><source>{best} seems to be up in the file, not {up}</source><translation>{best} scheint in der Datei oben zu sein, nicht {up}</translation></message>
<message><source>{box}, along axes of the world</source><translation>{box}, entlang der Weltachsen</translation></message>
<message><source>{box}, along its own axes</source><translation>{box}, entlang der eigenen Achsen</translation></message>
<message><source>{by} onto {words}</source><translation>{by} auf {words}</translation></message>
<message><source>{by} too {how}</source><translation>{by} zu {how}</translation></message>
<message><source>{centre} ({astray} is not on it)</source><translation>{centre} ({astray} ist nicht darauf)</translation></message>
<message><source>{centre} stays, along {axes}</source><translation>{centre} bleibt, entlang {axes}</translation></message>
<message numerus="yes"><source>{count} assets</source><translation><numerusform>{count} Modell</numerusform><numerusform>{count} Modelle</numerusform></translation></message>
<message><source>{count} assets as one</source><translation>{count} Modelle als eins</translation></message>
<message><source>{count} changed or new, read again</source><translation>{count} geändert oder neu, wieder gelesen</translation></message>
<message numerus="yes"><source>{count} entries</source><translation><numerusform>{count} Eintrag</numerusform><numerusform>{count} Einträge</numerusform></translation></message>
<message><source>{count} files</source><translation>{count} Dateien</translation></message>
<message><source>{count} gone</source><translation>{count} weg</translation></message>
<message numerus="yes"><source>{count} groups</source><translation><numerusform>{count} Gruppe</numerusform><numerusform>{count} Gruppen</numerusform></translation></message>
<message numerus="yes"><source>{count} kinds of trouble left, gravest first.</source><translation><numerusform>Noch {count} Art von Mangel, das Schwerste zuerst.</numerusform><numerusform>Noch {count} Arten von Mängeln, das Schwerste zuerst.</numerusform></translation></message>
<message><source>{count} models stand in it, not {count_2}</source><translation>{count} Modelle stehen darin, nicht {count_2}</translation></message>
<message numerus="yes"><source>{count} models standing</source><translation><numerusform>{count} Modell steht</numerusform><numerusform>{count} Modelle stehen</numerusform></translation></message>
<message><source>{count} more</source><translation>{count} weitere</translation></message>
<message numerus="yes"><source>{count} more parts</source><translation><numerusform>{count} weiteres Teil</numerusform><numerusform>{count} weitere Teile</numerusform></translation></message>
<message numerus="yes"><source>{count} nodes</source><translation><numerusform>{count} Knoten</numerusform><numerusform>{count} Knoten</numerusform></translation></message>
<message><source>{count} nodes are called '{name}': say which one with a number, as '{name}#1'</source><translation>{count} Knoten heißen „{name}“: mit einer Nummer sagen, welcher, etwa „{name}#1“</translation></message>
<message numerus="yes"><source>{count} nodes hang from {where}</source><translation><numerusform>{count} Knoten hängt an {where}</numerusform><numerusform>{count} Knoten hängen an {where}</numerusform></translation></message>
<message><source>{count} nodes use the mesh '{name}'</source><translation>{count} Knoten verwenden das Netz „{name}“</translation></message>
<message><source>{count} not closed: the centre of its surface is taken</source><translation>{count} nicht geschlossen: genommen wird die Mitte der Oberfläche</translation></message>
<message><source>{count} of {count_2}</source><translation>{count} von {count_2}</translation></message>
<message><source>{count} of {total} others here face along {most}{either}</source><translation>{count} von {total} anderen hier schauen entlang {most}{either}</translation></message>
<message numerus="yes"><source>{count} other files of its folder</source><translation><numerusform>{count} anderen Datei seines Ordners</numerusform><numerusform>{count} anderen Dateien seines Ordners</numerusform></translation></message>
<message numerus="yes"><source>{count} parts</source><translation><numerusform>{count} Teil</numerusform><numerusform>{count} Teile</numerusform></translation></message>
<message numerus="yes"><source>{count} parts and groups</source><translation><numerusform>{count} Teil oder Gruppe</numerusform><numerusform>{count} Teile und Gruppen</numerusform></translation></message>
<message><source>{count} parts are called '{name}'</source><translation>{count} Teile heißen „{name}“</translation></message>
<message><source>{count} parts sized</source><translation>{count} Teile bemessen</translation></message>
<message><source>{count} picked</source><translation>{count} gewählt</translation></message>
<message><source>{count} picked, the last one:&#10;{words}</source><translation>{count} gewählt, das letzte:&#10;{words}</translation></message>
<message><source>{count} pivots, up to {far} away</source><translation>{count} Drehpunkte, bis zu {far} entfernt</translation></message>
<message numerus="yes"><source>{count} points picked.</source><translation><numerusform>{count} Punkt gewählt.</numerusform><numerusform>{count} Punkte gewählt.</numerusform></translation></message>
<message><source>{count} ready</source><translation>{count} bereit</translation></message>
<message numerus="yes"><source>{count} roots</source><translation><numerusform>{count} Wurzel</numerusform><numerusform>{count} Wurzeln</numerusform></translation></message>
<message numerus="yes"><source>{count} stand within the size book</source><translation><numerusform>{count} passt zum Maßbuch</numerusform><numerusform>{count} passen zum Maßbuch</numerusform></translation></message>
<message numerus="yes"><source>{count} steps</source><translation><numerusform>{count} Schritt</numerusform><numerusform>{count} Schritte</numerusform></translation></message>
<message><source>{count} things stand in one another at {berth}: its menu sets them side by side</source><translation>{count} Dinge stehen an {berth} ineinander: sein Menü stellt sie nebeneinander</translation></message>
<message numerus="yes"><source>{count} vertices</source><translation><numerusform>{count} Eckpunkt</numerusform><numerusform>{count} Eckpunkte</numerusform></translation></message>
<message numerus="yes"><source>{count} warnings</source><translation><numerusform>{count} Warnung</numerusform><numerusform>{count} Warnungen</numerusform></translation></message>
<message><source>{day} {month} at {time}</source><translation>{day}. {month} um {time} Uhr</translation></message>
<message><source>{detail} · draft</source><translation>{detail} · Entwurf</translation></message>
<message><source>{detail}, as it was</source><translation>{detail}, wie es war</translation></message>
<message><source>{detail}, {assets} together</source><translation>{detail}, {assets} zusammen</translation></message>
<message><source>{detail}; step {later} says otherwise</source><translation>{detail}; Schritt {later} sagt es anders</translation></message>
<message><source>{did} · {warned} warned</source><translation>{did} · {warned} mit Warnung</translation></message>
<message><source>{distance} away from {centre}</source><translation>{distance} weg, Mitte: {centre}</translation></message>
<message><source>{does} along {names}</source><translation>{does} entlang {names}</translation></message>
<message><source>{done} of {total}{words}</source><translation>{done} von {total}{words}</translation></message>
<message><source>{do} needs parts: the nodes it is for</source><translation>{do} braucht parts: die Knoten, für die es ist</translation></message>
<message><source>{empty} without geometry stay where they are</source><translation>{empty} ohne Geometrie bleiben, wo sie sind</translation></message>
<message><source>{entry} is no point</source><translation>{entry} ist kein Punkt</translation></message>
<message><source>{error}, nor a share such as '2 %'</source><translation>{error}, und kein Anteil wie „2 %“</translation></message>
<message><source>{error}; choose another folder, or let it replace an earlier delivery</source><translation>{error}; einen anderen Ordner wählen oder eine frühere Lieferung ersetzen lassen</translation></message>
<message><source>{extents} outside the book</source><translation>{extents} außerhalb des Maßbuchs</translation></message>
<message><source>{extent} {there}; '{asset}' should have {words}</source><translation>{extent} {there}; „{asset}“ sollte haben: {words}</translation></message>
<message><source>{factor:.6g} times as large</source><translation>{factor:.6g}-mal so groß</translation></message>
<message><source>{factors} times as large</source><translation>{factors}-mal so groß</translation></message>
<message numerus="yes"><source>{failed} of {count} assets fail</source><translation><numerusform>{failed} von {count} Modell gescheitert</numerusform><numerusform>{failed} von {count} Modellen gescheitert</numerusform></translation></message>
<message><source>{field}: false checks nothing; leave it out</source><translation>{field}: false prüft nichts; weglassen</translation></message>
<message><source>{file} has no geometry</source><translation>{file} hat keine Geometrie</translation></message>
<message><source>{file}, line {line}</source><translation>{file}, Zeile {line}</translation></message>
<message><source>{flat} triangles have no area</source><translation>{flat} Dreiecke haben keinen Flächeninhalt</translation></message>
<message><source>{folder} have {best} up</source><translation>{folder} haben {best} oben</translation></message>
<message><source>{furthest} out, float32 steps are {spacing}</source><translation>{furthest} weit draußen, float32-Stufen sind {spacing}</translation></message>
<message><source>{get} of {others} others here</source><translation>{get} von {others} anderen hier</translation></message>
<message><source>{gone}: is not there any more</source><translation>{gone}: ist nicht mehr da</translation></message>
<message><source>{key} must name {what}, one 'NAME: {form}' each</source><translation>{key} muss {what} benennen, je ein „NAME: {form}“</translation></message>
<message><source>{key} {glob} matches no asset</source><translation>{key} {glob} trifft auf kein Modell zu</translation></message>
<message><source>{key} {name}: no mark '{mark}' is declared{did_you_mean}</source><translation>{key} {name}: eine Marke „{mark}“ ist nicht erklärt{did_you_mean}</translation></message>
<message><source>{kind} '{name}' is needed by {user}{more}: it stays</source><translation>{kind} „{name}“ wird gebraucht von {user}{more} und bleibt</translation></message>
<message><source>{kind} of {on}</source><translation>{kind} von {on}</translation></message>
<message><source>{kind} of {whose}</source><translation>{kind} von {whose}</translation></message>
<message><source>{kind} of {whose}{radius}</source><translation>{kind} von {whose}{radius}</translation></message>
<message><source>{kind} of {whose}{size}</source><translation>{kind} von {whose}{size}</translation></message>
<message><source>{kind} on {on}</source><translation>{kind} an {on}</translation></message>
<message><source>{label}: set things down there from its menu, or in Place</source><translation>{label}: im Menü des Platzes oder unter Setzen lassen sich Dinge dort absetzen</translation></message>
<message><source>{left} to settle</source><translation>{left} zu erledigen</translation></message>
<message><source>{length} off</source><translation>{length} daneben</translation></message>
<message><source>{level} at {stage}</source><translation>{stage}: {level}</translation></message>
<message><source>{longest_m} at its longest; made in {made} it would be {then}</source><translation>{longest_m} an der längsten Seite; gemacht in {made} wäre es {then}</translation></message>
<message><source>{low:.3g} to {high:.3g} {unit}</source><translation>{low:.3g} bis {high:.3g} {unit}</translation></message>
<message><source>{low_deg:g}° to {high_deg:g}°</source><translation>{low_deg:g}° bis {high_deg:g}°</translation></message>
<message><source>{low} to {high}</source><translation>{low} bis {high}</translation></message>
<message><source>{manifest} can't be read ({strerror}): all is done anew</source><translation>{manifest} kann nicht gelesen werden ({strerror}): alles wird neu gemacht</translation></message>
<message><source>{manifest} can't be written: {why}{also}</source><translation>{manifest} kann nicht geschrieben werden: {why}{also}</translation></message>
<message><source>{manifest} is no delivery manifest, or damaged: all is done anew</source><translation>{manifest} ist kein Lieferverzeichnis oder beschädigt: alles wird neu gemacht</translation></message>
<message><source>{manifest} was changed since it was written: all is done anew</source><translation>{manifest} wurde geändert, seit es geschrieben wurde: alles wird neu gemacht</translation></message>
<message><source>{max:,} kB</source><translation>{max:,} kB</translation></message>
<message><source>{metres:.3g} µm</source><translation>{metres:.3g} µm</translation></message>
<message><source>{module_name} of {module}</source><translation>{module_name} zu {module}</translation></message>
<message numerus="yes"><source>{moved} of {count} pivots moved, up to {furthest}</source><translation><numerusform>{moved} von {count} Drehpunkt bewegt, bis zu {furthest}</numerusform><numerusform>{moved} von {count} Drehpunkten bewegt, bis zu {furthest}</numerusform></translation></message>
<message><source>{named}[*] · Oak Square</source><translation>{named}[*] · Oak Square</translation></message>
<message><source>{names} and {word}</source><translation>{names} und {word}</translation></message>
<message numerus="yes"><source>{names}{more} stay as they are: {why}</source><translation><numerusform>{names}{more} bleibt, wie es ist: {why}</numerusform><numerusform>{names}{more} bleiben, wie sie sind: {why}</numerusform></translation></message>
<message><source>{name}  (group)</source><translation>{name}  (Gruppe)</translation></message>
<message><source>{name} has a stride of {stride} bytes for elements of {size}</source><translation>{name} hat eine Schrittweite von {stride} Bytes für Elemente von {size}</translation></message>
<message><source>{name} names buffer {buffer}, which is not there</source><translation>{name} nennt Buffer {buffer}, der nicht da ist</translation></message>
<message><source>{name} of {asset}</source><translation>{name} von {asset}</translation></message>
<message><source>{name} reaches past its buffer: to byte {offset} of {there}</source><translation>{name} reicht über seinen Buffer hinaus: bis Byte {offset} von {there}</translation></message>
<message><source>{name} to</source><translation>{name} auf</translation></message>
<message><source>{name} was changed by another hand since it was opened or saved here.</source><translation>{name} wurde von anderer Hand geändert, seit es hier geöffnet oder gespeichert wurde.</translation></message>
<message><source>{name} was changed by another hand: open it again to have what it says now</source><translation>{name} wurde von anderer Hand geändert: noch einmal öffnen, um zu haben, was jetzt darin steht</translation></message>
<message><source>{name}: in the file, up is most likely</source><translation>{name}: in der Datei ist am ehesten oben</translation></message>
<message><source>{name}: is no model, prep sheet or size book, so it is not opened</source><translation>{name}: ist weder Modell noch Vorbereitungsblatt noch Maßbuch und wird nicht geöffnet</translation></message>
<message><source>{name}it has no geometry to check</source><translation>{name}keine Geometrie, die zu prüfen wäre</translation></message>
<message><source>{name}its bottom is at height {bottom}</source><translation>{name}die Unterseite ist auf Höhe {bottom}</translation></message>
<message><source>{name}its pivot is {off} off its {pivot}</source><translation>{name}der Drehpunkt ist {off} neben: {pivot}</translation></message>
<message><source>{name}{extent} {there}, not {words}</source><translation>{name}{extent} {there}, nicht {words}</translation></message>
<message><source>{noun} is usually {range_words}</source><translation>{noun} misst meist {range_words}</translation></message>
<message><source>{noun}: usually {words}</source><translation>{noun}: meist {words}</translation></message>
<message><source>{only} ({count} of {asset})</source><translation>{only} ({count} in {asset})</translation></message>
<message><source>{option}: '{wanted}' is none of {known}{did_you_mean}</source><translation>{option}: „{wanted}“ ist nichts von {known}{did_you_mean}</translation></message>
<message><source>{out}: another run is delivering into it</source><translation>{out}: ein anderer Lauf liefert gerade dorthin</translation></message>
<message><source>{out}: can't be delivered into: '{home}' may not be written in</source><translation>{out}: dorthin kann nicht geliefert werden: in „{home}“ darf nicht geschrieben werden</translation></message>
<message><source>{out}: can't be delivered into: {strerror}</source><translation>{out}: dorthin kann nicht geliefert werden: {strerror}</translation></message>
<message><source>{out}: exists</source><translation>{out}: gibt es schon</translation></message>
<message><source>{out}: is no folder</source><translation>{out}: ist kein Ordner</translation></message>
<message><source>{out}: the delivery must lie apart from the input folder '{folder}'</source><translation>{out}: die Lieferung muss getrennt vom Eingangsordner „{folder}“ liegen</translation></message>
<message><source>{parts} moved{together}, up to {furthest}</source><translation>{parts}{together} bewegt, bis zu {furthest}</translation></message>
<message><source>{path} is resampled at {count} keys, within {resampled:g} of the asset's diagonal</source><translation>{path} wird mit {count} Schlüsseln neu abgetastet, auf {resampled:g} der Diagonale des Modells genau</translation></message>
<message><source>{path}: can't be written: {strerror}</source><translation>{path}: kann nicht geschrieben werden: {strerror}</translation></message>
<message><source>{path}: is no delivery manifest</source><translation>{path}: ist kein Lieferverzeichnis</translation></message>
<message><source>{path}: is not there</source><translation>{path}: ist nicht da</translation></message>
<message><source>{path}: lies in the folder to deliver into, '{out}'</source><translation>{path}: liegt in dem Ordner, in den geliefert wird, „{out}“</translation></message>
<message><source>{path}: there is no manifest to prove by ({strerror})</source><translation>{path}: dort ist kein Verzeichnis, mit dem zu beweisen wäre ({strerror})</translation></message>
<message><source>{place} on {name}</source><translation>{place} an {name}</translation></message>
<message><source>{point} of {name}</source><translation>{point} von {name}</translation></message>
<message><source>{read} read</source><translation>{read} gelesen</translation></message>
<message><source>{reason} (nor on the other {parts} '{on}')</source><translation>{reason} (auch nicht an den anderen „{on}“: {parts})</translation></message>
<message><source>{refused} refused</source><translation>{refused} verweigert</translation></message>
<message><source>{removesuffix}. Let it replace an earlier delivery, or choose another folder</source><translation>{removesuffix}. Eine frühere Lieferung ersetzen lassen oder einen anderen Ordner wählen</translation></message>
<message><source>{said} can't be given: {where} it is for “{words}”.</source><translation>{said} ist vergeben: {where} steht es für „{words}“.</translation></message>
<message><source>{said} does it already.</source><translation>{said} tut es schon.</translation></message>
<message><source>{said} in order {order}, {parts}</source><translation>{said} in der Reihenfolge {order}, {parts}</translation></message>
<message><source>{said} is free.</source><translation>{said} ist frei.</translation></message>
<message><source>{says} If it was made in</source><translation>{says} Wäre es gemacht in</translation></message>
<message><source>{shot}: the picture can't be saved there</source><translation>{shot}: das Bild lässt sich dort nicht speichern</translation></message>
<message><source>{shown} and {count} more</source><translation>{shown} und {count} weitere</translation></message>
<message><source>{side: …}, {from: {height: …}, to: {height: …}}, {mark: …} or {vertices: […], of: …}</source><translation>{side: …}, {from: {height: …}, to: {height: …}}, {mark: …} oder {vertices: […], of: …}</translation></message>
<message><source>{side} point</source><translation>Punkt {side}</translation></message>
<message><source>{size} at its longest</source><translation>{size} an der längsten Seite</translation></message>
<message><source>{span}: try log</source><translation>{span}: log versuchen</translation></message>
<message><source>{stage}: to {level}</source><translation>{stage}: {level}</translation></message>
<message><source>{tip}. What a format fixes (glTF: metres, Y up) stays so</source><translation>{tip}. Was ein Format festlegt (glTF: Meter, Y oben), bleibt so</translation></message>
<message><source>{title}  ·  {name}, {at_s:.1f} of {length_s:.1f} s</source><translation>{title}  ·  {name}, {at_s:.1f} von {length_s:.1f} s</translation></message>
<message><source>{title} can't hold {listed}</source><translation>{title} kann nicht halten: {listed}</translation></message>
<message><source>{title} is not made from other formats</source><translation>{title} wird nicht aus anderen Formaten gemacht</translation></message>
<message><source>{total} pieces of '{name}'</source><translation>{total} Stücke aus „{name}“</translation></message>
<message><source>{total} pieces of {count} parts</source><translation>{total} Stücke aus {count} Teilen</translation></message>
<message><source>{turned} turned</source><translation>{turned} gedreht</translation></message>
<message><source>{unread}, so that it does not cross to another format</source><translation>{unread}, sodass es nicht in ein anderes Format übergeht</translation></message>
<message><source>{upper} holds no pivots: {own} part pivots are not written</source><translation>{upper} hält keine Drehpunkte: {own} Drehpunkte von Teilen werden nicht geschrieben</translation></message>
<message><source>{up} is up in the file, not {up_2}</source><translation>{up} ist in der Datei oben, nicht {up_2}</translation></message>
<message><source>{up} is up, {front} is front</source><translation>{up} ist oben, {front} ist vorn</translation></message>
<message><source>{up} up, {length} tall</source><translation>{up} oben, {length} hoch</translation></message>
<message><source>{usual}: {times} too large</source><translation>{usual}: {times} zu groß</translation></message>
<message><source>{usual}: {times} too small</source><translation>{usual}: {times} zu klein</translation></message>
<message><source>{values} is no direction: it has no length</source><translation>{values} ist keine Richtung: sie hat keine Länge</translation></message>
<message><source>{verb} {kind} of {whose}</source><translation>{verb} {kind} von {whose}</translation></message>
<message><source>{vertices} of '{name}' {words}</source><translation>{vertices} von „{name}“ {words}</translation></message>
<message><source>{vertices} of {count} parts {words}</source><translation>{vertices} von {count} Teilen {words}</translation></message>
<message><source>{wants}  ·  right click lists what lies there  ·  Esc leaves it</source><translation>{wants}  ·  Rechtsklick listet, was dort liegt  ·  Esc beendet</translation></message>
<message><source>{what} are not taken apart or hung elsewhere: deliver it as {others}</source><translation>{what} werden nicht zerlegt oder umgehängt: als {others} liefern</translation></message>
<message><source>{what} baked on {count} of {nodes}</source><translation>{what} eingerechnet an {count} von {nodes}</translation></message>
<message><source>{what} can't be decoded</source><translation>{what} lässt sich nicht entpacken</translation></message>
<message><source>{what} declares {count} elements that no bytes stand for, over {drawn_vertices}</source><translation>{what} erklärt {count} Elemente, für die keine Bytes stehen, mehr als {drawn_vertices}</translation></message>
<message><source>{what} declares {count} elements, over the limit of {vertices}</source><translation>{what} erklärt {count} Elemente, mehr als die Grenze von {vertices}</translation></message>
<message><source>{what} has an unknown type {component} {kind}</source><translation>{what} hat eine unbekannte Art {component} {kind}</translation></message>
<message><source>{what} has no usable {key}</source><translation>{what} hat kein brauchbares {key}</translation></message>
<message><source>{what} is not there</source><translation>{what} ist nicht da</translation></message>
<message><source>{what} is of a kind that can't be read</source><translation>{what} ist von einer Art, die sich nicht lesen lässt</translation></message>
<message><source>{what} lacks its indices or values</source><translation>{what} fehlen Indizes oder Werte</translation></message>
<message><source>{what} lacks {name}</source><translation>{what} fehlt {name}</translation></message>
<message><source>{what} matrix</source><translation>{what} Matrix</translation></message>
<message><source>{what} names buffer view {index}, which is not there</source><translation>{what} nennt Buffer-View {index}, die nicht da ist</translation></message>
<message><source>{what} names elements that are not there</source><translation>{what} nennt Elemente, die nicht da sind</translation></message>
<message><source>{what} reaches past its bytes</source><translation>{what} reicht über seine Bytes hinaus</translation></message>
<message><source>{what} reaches past its bytes: {count} elements need {need}, there are {room}</source><translation>{what} reicht über seine Bytes hinaus: {count} Elemente brauchen {need}, da sind {room}</translation></message>
<message><source>{what} reset on {count} of {nodes}</source><translation>{what} zurückgesetzt an {count} von {nodes}</translation></message>
<message><source>{what} rotation</source><translation>{what} Drehung</translation></message>
<message><source>{what} scale</source><translation>{what} Skalierung</translation></message>
<message><source>{what} taken: {words}</source><translation>{what} übernommen: {words}</translation></message>
<message><source>{what} to {where}</source><translation>{what} nach {where}</translation></message>
<message><source>{what} translation</source><translation>{what} Verschiebung</translation></message>
<message><source>{what} weights</source><translation>{what} Gewichte</translation></message>
<message><source>{what} {value} is not there (there are {count})</source><translation>{what} {value} ist nicht da (es gibt {count})</translation></message>
<message><source>{what}: has shape {shape}, needs {shape_2}</source><translation>{what}: hat die Form {shape}, braucht {shape_2}</translation></message>
<message><source>{what}: holds a number that is not finite</source><translation>{what}: enthält eine Zahl, die nicht endlich ist</translation></message>
<message><source>{what}: it declares {count} triangles and has bytes for {there}</source><translation>{what}: es erklärt {count} Dreiecke und hat Bytes für {there}</translation></message>
<message><source>{what}: it flattens space aslant, which has no inverse</source><translation>{what}: es drückt den Raum schräg flach, was keine Umkehrung hat</translation></message>
<message><source>{what}: its indices</source><translation>{what}: seine Indizes</translation></message>
<message><source>{what}: its scale is zero along an axis, which has no inverse</source><translation>{what}: die Skalierung ist entlang einer Achse null, was keine Umkehrung hat</translation></message>
<message><source>{what}: {count} decoded, {count_2} declared</source><translation>{what}: {count} entpackt, {count_2} erklärt</translation></message>
<message><source>{what}; nothing is tried yet.</source><translation>{what}; noch wird nichts versucht.</translation></message>
<message numerus="yes"><source>{what}{count} vertices of the lead asset</source><translation><numerusform>{what}{count} Eckpunkt des führenden Modells</numerusform><numerusform>{what}{count} Eckpunkte des führenden Modells</numerusform></translation></message>
<message><source>{where}: '{error}' is not one of {expected}{hint}</source><translation>{where}: „{error}“ ist keines von {expected}{hint}</translation></message>
<message><source>{whole} of {count} delivered and proved</source><translation>{whole} von {count} geliefert und bewiesen</translation></message>
<message><source>{whole} of {count} delivered and proved; {off}.</source><translation>{whole} von {count} geliefert und bewiesen; {off}.</translation></message>
<message><source>{whole} of {count} would be delivered</source><translation>{whole} von {count} würden geliefert</translation></message>
<message><source>{words}, together</source><translation>{words}, zusammen</translation></message>
<message numerus="yes"><source>{words}, {count} do not</source><translation><numerusform>{words}, {count} nicht</numerusform><numerusform>{words}, {count} nicht</numerusform></translation></message>
<message><source>{words}; under its other variants ({others}) it would not be true</source><translation>{words}; unter seinen anderen Varianten ({others}) träfe es nicht zu</translation></message>
<message><source>{word} {done} of {total}{words}</source><translation>{word} {done} von {total}{words}</translation></message>
<message><source>{word}: click it in the view</source><translation>{word}: in der Ansicht anklicken</translation></message>
<message><source>{word}: select an asset, or pick parts, to take hold of</source><translation>{word}: ein Modell auswählen oder Teile wählen, um zuzugreifen</translation></message>
<message><source>{word}: {entry}: {why}  ·  Esc</source><translation>{word}: {entry}: {why}  ·  Esc</translation></message>
<message><source>{word}: {pivots}along {axes}{about}  ·  drag, or type {example}  ·  Esc</source><translation>{word}: {pivots}entlang: {axes}{about}  ·  ziehen, oder {example} tippen  ·  Esc</translation></message>
<message><source>{word}: {trouble}  ·  Esc</source><translation>{word}: {trouble}  ·  Esc</translation></message>
<message><source>| field | may be | if it is left out | what it says |</source><translation>| Feld | kann sein | wenn es fehlt | was es sagt |</translation></message>
<message><source>“{word}” takes nothing now: {tip}</source><translation>„{word}“ nimmt jetzt nichts an: {tip}</translation></message>
<message><source>… {count} more</source><translation>… {count} weitere</translation></message>
<message><source>▲ {said} is the key of “{words}”, which would then have {rest}.</source><translation>▲ {said} ist die Taste für „{words}“; dafür bliebe dann: {rest}.</translation></message>
</context></TS>
